import { expect, test } from 'vitest'
import { initialsOf } from './initials'

test.each([
  ['Nia Okafor', 'NO'],
  ['Øystein de la Cruz', 'ØC'],
  ['“Tablet 7”', 'T7'],
  ['小林 光', '小光'],
  ['Zuzka', 'Z'],
])('%s has the initials %s', (name, initials) => expect(initialsOf(name)).toBe(initials))
