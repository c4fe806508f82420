import { expect, test } from 'vitest'
import vectors from '../../../tests/vectors/picture.json'
import { even, front, lead } from './arrange'

test.each(vectors)('$count tiles in $width x $height stand where the core puts them', ({ count, width, height, ...expected }) => {
  expect(even(count, width, height, 8, 26)).toEqual(expected.even)
  expect(front(count, 2, width, height, 8, 26, 96)).toEqual(expected.pair)
  expect(lead(count, width, height, 8, 26, 96)).toEqual(expected.lead)
})
