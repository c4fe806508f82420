import { expect, test } from 'vitest'
import { fromRule, toRule, usual } from './rule'

test('a rule goes into the page and comes out the same', () => {
  for (const rule of [
    'FREQ=DAILY',
    'FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,TH',
    'FREQ=MONTHLY;UNTIL=20271231T235959Z',
    'FREQ=WEEKLY;BYDAY=SU;UNTIL=20270601T235959Z',
  ])
    expect(toRule(fromRule(rule)!)).toBe(rule)
})

test('days are named in the order of the week, and only where they count', () => {
  expect(toRule({ ...usual, days: ['FR', 'MO'] })).toBe('FREQ=WEEKLY;BYDAY=MO,FR')
  expect(toRule({ ...usual, every: 'MONTHLY', days: ['FR'] })).toBe('FREQ=MONTHLY')
})

test('a rule that the page cannot show is left alone', () => {
  expect(fromRule('FREQ=MONTHLY;BYDAY=1MO')).toBeNull()
  expect(fromRule('FREQ=YEARLY')).toBeNull()
  expect(fromRule(null)).toEqual(usual)
})
