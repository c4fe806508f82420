import { expect, test } from 'vitest'
import { closer, matrix, moved, standing, unitsAt, wholeLook, within } from './look'

const place = { width: 800, height: 600 }
const page = { width: 1600, height: 900 }

test('whole, a page fits its place and stands in the middle, turned round or not', () => {
  expect(standing(wholeLook, place, page)).toMatchObject({ left: 0, top: 75, width: 800, height: 450, scale: 0.5 })
  const side = standing({ ...wholeLook, turn: 90 }, place, page)
  expect(side.height).toBeCloseTo(600)
  expect(side.width).toBeCloseTo(337.5)
  expect(side.left).toBeCloseTo(231.25)
})

test('looking closer keeps what is under the hand there, and never looks beside the page', () => {
  const at = { x: 500, y: 320 }
  const before = standing(wholeLook, place, page)
  const look = closer(wholeLook, 3, at, place, page)
  const after = standing(look, place, page)
  expect((at.x - after.left) / after.width).toBeCloseTo((at.x - before.left) / before.width)
  expect((at.y - after.top) / after.height).toBeCloseTo((at.y - before.top) / before.height)
  const far = standing(moved(look, 1e6, 1e6, place, page), place, page)
  expect(far.left).toBeCloseTo(0)
  expect(far.top).toBeCloseTo(0)
  expect(within({ scale: 99, x: -4, y: 7, turn: 0 }, place, page).scale).toBe(8)
})

test.each([0, 90, 180, 270])('a place on the page is found again from its pixel, turned by %i degrees', (turn) => {
  const stand = standing({ scale: 2, x: 0.4, y: 0.6, turn }, place, page)
  const [a, b, c, d, e, f] = matrix(stand, page, 16_384)
  for (const [x, y] of [
    [0, 0],
    [16_384, 9_216],
    [5_000, 3_000],
  ] as const) {
    const [px, py] = [a * x + c * y + e, b * x + d * y + f]
    const [ux, uy] = unitsAt(stand, page, 16_384, px, py)
    expect(ux).toBeCloseTo(x)
    expect(uy).toBeCloseTo(y)
  }
  const corners = [
    [e, f],
    [a * 16_384 + c * 9_216 + e, b * 16_384 + d * 9_216 + f],
  ]
  expect(Math.min(...corners.map(([x]) => x!))).toBeCloseTo(stand.left)
  expect(Math.max(...corners.map(([, y]) => y!))).toBeCloseTo(stand.top + stand.height)
})
