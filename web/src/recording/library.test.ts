import { expect, test } from 'vitest'
import { folded, timeIn } from './library'
import { placesOf } from './placing'

test('times are read as they are typed', () => {
  expect(timeIn('1:30')).toBe(90_000)
  expect(timeIn('90')).toBe(90_000)
  expect(timeIn('1:02:03.5')).toBe(3_723_500)
  for (const bad of ['', '-1', '1:2:3:4', 'soon', '1::2']) expect(timeIn(bad), bad).toBeNull()
})

test('names are found without accents and capitals', () => {
  expect(folded(' Ewa Brzezińska ')).toBe('ewa brzezinska')
})

test('in the preview pictures stand apart within the picture, and who speaks is there', () => {
  for (const framing of ['even', 'lead', 'exhibit'] as const)
    for (const shows of [false, true])
      for (const count of [1, 2, 9, 30]) {
        const people = Array.from({ length: count }, (_, at) => at + 1)
        const places = placesOf(framing, people, 1, shows)
        expect(places.some((place) => place.seat === 1)).toBe(true)
        expect(places.some((place) => place.seat === null)).toBe(shows)
        for (const [at, one] of places.entries()) {
          expect(one.x >= 0 && one.y >= 0 && one.x + one.wide <= 1.0001 && one.y + one.high <= 1.0001).toBe(true)
          for (const other of places.slice(at + 1))
            expect(
              one.x + one.wide <= other.x + 1e-9 ||
                other.x + other.wide <= one.x + 1e-9 ||
                one.y + one.high <= other.y + 1e-9 ||
                other.y + other.high <= one.y + 1e-9,
            ).toBe(true)
        }
      }
})
