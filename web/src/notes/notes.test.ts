import { beforeEach, expect, test, vi } from 'vitest'
import { addNote, changeNote, notesAsText, notesOf, placeIn, useNotes } from './notes'

beforeEach(() => {
  const kept = new Map<string, string>()
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => void kept.set(key, value),
    removeItem: (key: string) => void kept.delete(key),
  })
  useNotes.setState({}, true)
})

test('notes stand in the order of their moments, are changed, and are gone when nothing is left of them', () => {
  addNote('a', 2_000, 'second')
  addNote('a', 1_000, ' first ')
  useNotes.setState({}, true)
  expect(notesOf('a').map((one) => one.text)).toEqual(['first', 'second'])
  expect(notesOf('b')).toEqual([])
  const first = notesOf('a')[0]!
  changeNote('a', first.id, 'changed')
  changeNote('a', notesOf('a')[1]!.id, '  ')
  useNotes.setState({}, true)
  expect(notesOf('a')).toEqual([{ id: first.id, at: 1_000, text: 'changed' }])
})

test('what was kept and cannot be read is none', () => {
  localStorage.setItem('notes-x', '{"no": 1}')
  expect(notesOf('x')).toEqual([])
  localStorage.setItem('notes-y', 'no')
  expect(notesOf('y')).toEqual([])
})

test('they are saved as text and as Markdown', () => {
  const notes = [{ id: 1, at: 0, text: 'one\ntwo' }]
  expect(notesAsText('T', notes, () => '9:00', false)).toBe('T\n\n[9:00] one\n    two\n')
  expect(notesAsText('T', notes, () => '9:00', true)).toBe('# T\n\n- **9:00** one\n  two\n')
})

test('a moment leads to its place in the film, with pauses taken out', () => {
  const stretches = [
    { from: 1_000, to: 5_000 },
    { from: 9_000, to: 12_000 },
  ]
  expect([0, 1_000, 4_999, 5_000, 9_500, 12_000].map((at) => placeIn(stretches, at))).toEqual([null, 0, 3_999, null, 4_500, null])
})
