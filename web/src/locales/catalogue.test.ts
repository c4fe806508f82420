import { readFileSync } from 'node:fs'
import { expect, test } from 'vitest'
import en from './en.json'

const contract = readFileSync(new URL('../contract.generated.ts', import.meta.url), 'utf8')
const namesOf = (type: string) =>
  [...contract.match(new RegExp(`export type ${type} = (.*)`))![1]!.matchAll(/'(\w+)'/g)].map((match) => match[1]!)
const server = (path: string) => readFileSync(new URL(`../../../src/HoldCourt.Server/${path}`, import.meta.url), 'utf8')

test('every refusal of the core and the server has a sentence', () => {
  const fromServer = [
    'Api/AccountEndpoints.cs',
    'Api/SessionEndpoints.cs',
    'Api/DoorEndpoints.cs',
    'Api/Problems.cs',
    'Security/SecuritySetup.cs',
  ].flatMap((file) =>
    [...server(file).matchAll(/Problems\.Of\(\s*(?:[^"]*\? )?"(\w+)"(?: : "(\w+)")?/g)].flatMap((match) =>
      [match[1]!, match[2]].filter((name) => name !== undefined),
    ),
  )
  expect(fromServer.length).toBeGreaterThan(10)
  for (const reason of [...namesOf('Reason'), ...fromServer]) expect(en.reason, reason).toHaveProperty(reason)
})

test('every entry of the ledger has a sentence', () => {
  const entry = readFileSync(new URL('../../../src/HoldCourt.Core/Sittings/Entry.cs', import.meta.url), 'utf8')
  const facts = [...entry.matchAll(/JsonDerivedType\(typeof\(\w+\), "(\w+)"\)/g)].map((match) => match[1]!)
  const spelledOut = {
    unmuteAnswered: ['agreedToUnmute', 'refusedToUnmute'],
    camerasTurned: ['camerasTurnedOn', 'camerasTurnedOff', 'cameraOn', 'cameraOff'],
  }
  for (const fact of facts.flatMap((name) => spelledOut[name as keyof typeof spelledOut] ?? [name]))
    expect(en.ledger, fact).toHaveProperty(fact)
})

test('every order and audience is named where it is shown', () => {
  for (const order of namesOf('Order'))
    for (const audience of namesOf('Audience'))
      expect(en.orderDetail).toHaveProperty(`${order}${audience[0]!.toUpperCase()}${audience.slice(1)}`)
})

test('sentences do not shout', () => {
  expect(JSON.stringify(en)).not.toContain('!')
})
