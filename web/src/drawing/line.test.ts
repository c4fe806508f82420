import { expect, test } from 'vitest'
import vectors from '../../../tests/vectors/lines.json'
import { readLine, writeLine } from './line'

test.each(vectors)('$line stands for $points', ({ points, line }) => {
  expect(writeLine(points)).toBe(line)
  expect(readLine(line)).toEqual(points)
})
