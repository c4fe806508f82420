import type { KeyboardEvent, MouseEvent } from 'react'
import { beforeEach, expect, test, vi } from 'vitest'
import { clearSelection, clickStrip, keyOnStrip, selectShown, setOrder, useSelection } from './selection'

vi.stubGlobal('document', { querySelector: () => ({ focus: () => undefined }) })
const click = (id: number, held: Partial<MouseEvent> = {}) =>
  clickStrip({ shiftKey: false, ctrlKey: false, metaKey: false, ...held } as MouseEvent, id)
const press = (key: string, shiftKey = false) => {
  const event = { key, shiftKey, preventDefault: vi.fn() }
  keyOnStrip(event as unknown as KeyboardEvent, useSelection.getState().at!)
  return event.preventDefault.mock.calls.length > 0
}
const selected = () => [...useSelection.getState().selected].sort((a, b) => a - b)

beforeEach(() => {
  useSelection.setState(useSelection.getInitialState(), true)
  setOrder([5, 3, 9, 1])
})

test('a click selects one and lets go of it; Ctrl adds and takes; Shift goes along the board, not along the numbers', () => {
  click(3)
  expect(selected()).toEqual([3])
  click(3)
  expect(selected()).toEqual([])
  click(5)
  click(1, { ctrlKey: true })
  click(5, { ctrlKey: true })
  expect(selected()).toEqual([1])
  click(5)
  click(9, { shiftKey: true })
  expect(selected()).toEqual([3, 5, 9])
  click(3, { shiftKey: true })
  expect(selected()).toEqual([3, 5])
})

test('Shift after the first one has left the board selects the one clicked', () => {
  click(9)
  setOrder([5, 3, 1])
  click(1, { shiftKey: true })
  expect(selected()).toEqual([1])
})

test('pages and ends go far, and Shift selects all on the way', () => {
  setOrder(Array.from({ length: 1000 }, (_, at) => 2000 - at))
  click(2000)
  press('PageDown')
  expect(useSelection.getState().at).toBe(1990)
  press('PageDown', true)
  expect(selected()).toEqual([...Array.from({ length: 11 }, (_, at) => 1980 + at), 2000])
  press('End', true)
  expect(useSelection.getState().at).toBe(1001)
  expect(selected()).toHaveLength(991)
  press('PageDown')
  press('PageUp')
  expect(useSelection.getState().at).toBe(1011)
  press('Home')
  press('ArrowUp')
  expect(useSelection.getState().at).toBe(2000)
  expect(selected()).toHaveLength(991)
})

test('keys walk, select, extend and open, and stop at the ends', () => {
  click(5)
  clearSelection()
  press('ArrowDown')
  expect(useSelection.getState().at).toBe(3)
  press(' ')
  press('ArrowDown', true)
  expect(selected()).toEqual([3, 9])
  press('ArrowDown')
  press('ArrowDown')
  expect(useSelection.getState().at).toBe(1)
  press('Enter')
  expect(useSelection.getState().opened).toBe(1)
  expect(press('q')).toBe(false)
  selectShown()
  expect(selected()).toEqual([1, 3, 5, 9])
})
