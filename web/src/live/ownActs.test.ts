import { expect, test } from 'vitest'
import { isOwnAct, noteOwnAct } from './ownActs'

test('what one closes oneself is one’s own, for a moment', () => {
  noteOwnAct({ do: 'closeMicrophone' }, 1000)
  expect(isOwnAct('microphone', 1100)).toBe(true)
  expect(isOwnAct('camera', 1100)).toBe(false)
  expect(isOwnAct('microphone', 3000)).toBe(false)
})

test('whoever has just opened the microphone or the camera is told when another closes it', () => {
  noteOwnAct({ do: 'closeMicrophone' }, 10_000)
  noteOwnAct({ do: 'openMicrophone' }, 10_100)
  expect(isOwnAct('microphone', 10_200)).toBe(false)
  noteOwnAct({ do: 'turnCamera', on: false }, 10_000)
  expect(isOwnAct('camera', 10_050)).toBe(true)
  noteOwnAct({ do: 'turnCamera', on: true }, 10_100)
  expect(isOwnAct('camera', 10_200)).toBe(false)
})

test('an act of the bench may change anything about oneself', () => {
  noteOwnAct({ do: 'takeBack' }, 20_000)
  expect((['microphone', 'camera', 'hand', 'floor', 'name'] as const).filter((own) => !isOwnAct(own, 20_500))).toEqual([])
})

test('an answer that comes at once is told, and an asking that one ends oneself is not', () => {
  noteOwnAct({ do: 'askToShow', on: true }, 60_000)
  expect(isOwnAct('asking', 60_200)).toBe(false)
  noteOwnAct({ do: 'askToShow', on: false }, 61_000)
  expect(isOwnAct('asking', 61_200)).toBe(true)
})
