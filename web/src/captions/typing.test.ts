import { expect, test } from 'vitest'
import { Delay, ready, writtenOut } from './typing'

test('a finished sentence goes, a word in the middle of one stays', () => {
  expect(ready('Good morning. ')).toEqual(['Good morning.', ''])
  expect(ready('Good morning')).toEqual(['', 'Good morning'])
  expect(ready('At 3.5 metres')).toEqual(['', 'At 3.5 metres'])
  expect(ready('She said “stop!” ')).toEqual(['She said “stop!”', ''])
  expect(ready('Yes, ')).toEqual(['', 'Yes, '])
})

test('what is too long goes at a gap between words, and nothing is lost', () => {
  const words = 'the gauge at the upper weir has been read twice a day since the flood and never stood as high as'
  let [typed, sent] = ['', '']
  for (const letter of words) {
    const [goes, stays] = ready(typed + letter)
    sent += goes ? `${goes} ` : ''
    typed = stays
    expect(typed.length).toBeLessThanOrEqual(72)
  }
  expect(sent + typed).toBe(words)
  const endless = 'a'.repeat(400)
  let left = ''
  let gone = ''
  for (const letter of endless) {
    const [goes, stays] = ready(left + letter)
    gone += goes
    left = stays
  }
  expect(gone + left).toBe(endless)
})

test('short forms are written out when they end, with a capital where they have one', () => {
  const forms = { tp: 'towpath', wc: 'water council', żb: 'żeremie bobrów' }
  expect(writtenOut('along the tp ', forms)).toBe('along the towpath ')
  expect(writtenOut('the tp', forms)).toBe('the tp')
  expect(writtenOut('Wc,', forms)).toBe('Water council,')
  expect(writtenOut('https ', forms)).toBe('https ')
  expect(writtenOut('constructor ', forms)).toBe('constructor ')
  expect(writtenOut('nad żb.', forms)).toBe('nad żeremie bobrów.')
})

test('the delay is learnt from who begins to speak, and not from long silences', () => {
  const delay = new Delay()
  for (let n = 0; n < 30; n++) {
    delay.heard(n * 10_000)
    delay.typed(n * 10_000 + 4_000)
    delay.typed(n * 10_000 + 9_000)
  }
  expect(delay.value).toBeGreaterThan(3_900)
  expect(delay.value).toBeLessThanOrEqual(4_000)
  delay.heard(0)
  delay.typed(60_000)
  expect(delay.value).toBeLessThanOrEqual(4_000)
})
