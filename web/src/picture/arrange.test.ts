import { expect, test } from 'vitest'
import vectors from '../../../tests/vectors/picture.json'
import { beside, even, front, lead, type Tile } from './arrange'

test.each(vectors)('$count tiles in $width x $height stand where the core puts them', ({ count, width, height, ...expected }) => {
  expect(even(count, width, height, 8, 26)).toEqual(expected.even)
  expect(front(count, 2, width, height, 8, 26, 96)).toEqual(expected.pair)
  expect(lead(count, width, height, 8, 26, 96)).toEqual(expected.lead)
})

const overlap = (a: Tile, b: Tile) => a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height

test.each([640, 900, 1190, 1900])(
  'beside what is shown, in a width of %i, nothing covers anything and nothing is cut off',
  (width) => {
    for (const height of [320, 640, 1000])
      for (const exhibits of [1, 2])
        for (const large of [0, 1, 2])
          for (const count of [0, 1, 2, 9, 30]) {
            const [shown, people] = beside(exhibits, count, large, width, height, 8, 26, 96)
            const all = [...shown, ...people]
            expect(shown).toHaveLength(exhibits)
            expect(people.length).toBeGreaterThanOrEqual(large === 0 ? count : Math.min(count, large))
            for (const [i, tile] of all.entries()) {
              expect(tile.x >= 0 && tile.y >= 0 && tile.x + tile.width <= width && tile.y + tile.height <= height).toBe(true)
              expect(tile.width > 0 && tile.height > 0).toBe(true)
              for (const other of all.slice(i + 1)) expect(overlap(tile, other)).toBe(false)
            }
            if (exhibits === 1)
              expect(shown[0]!.width * shown[0]!.height).toBeGreaterThan(width * height * (large > 0 ? 0.6 : 0.45))
            if (people.length > large) expect(people[0]!.width).toBeGreaterThanOrEqual(people.at(-1)!.width)
          }
  },
)
