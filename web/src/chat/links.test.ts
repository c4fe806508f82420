import { expect, test } from 'vitest'
import { piecesOf } from './links'

test.each([
  ['See https://rivers.example.org/gauges.', ['https://rivers.example.org/gauges']],
  ['(http://a.example.org/x_(y)), and more', ['http://a.example.org/x_(y)']],
  ['javascript:alert(1) data:text/html,x ftp://a.example.org', []],
  ['<b>https://a.example.org/"onclick=x</b>', ['https://a.example.org/']],
  ['no link', []],
])('%s', (text, links) => {
  const pieces = piecesOf(text)
  expect(pieces.map((piece) => piece.text).join('')).toBe(text)
  expect(pieces.flatMap((piece) => piece.href ?? [])).toEqual(links)
})
