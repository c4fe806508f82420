import { readFileSync, readdirSync } from 'node:fs'
import { expect, test } from 'vitest'
import en from './en.json'
import pl from './pl.json'

const contract = readFileSync(new URL('../contract.generated.ts', import.meta.url), 'utf8')
const namesOf = (type: string) =>
  [...contract.match(new RegExp(`export type ${type} = (.*)`))![1]!.matchAll(/'(\w+)'/g)].map((match) => match[1]!)

test('every refusal of the core and the server has a sentence', () => {
  // In these folders a string in camel case names a reason.
  const fromServer = ['Accounts', 'Admission', 'Api', 'Planning', 'Security'].flatMap((folder) => {
    const place = new URL(`../../../src/HoldCourt.Server/${folder}/`, import.meta.url)
    return readdirSync(place).flatMap((file) =>
      [...readFileSync(new URL(file, place), 'utf8').matchAll(/"([a-z]+(?:[A-Z][a-z]+)+)"/g)].map((match) => match[1]!),
    )
  })
  expect(fromServer.length).toBeGreaterThan(40)
  for (const reason of [...namesOf('Reason'), ...fromServer]) expect(en.reason, reason).toHaveProperty(reason)
})

test('every entry of the ledger has a sentence', () => {
  const core = new URL('../../../src/HoldCourt.Core/', import.meta.url)
  const sources = readdirSync(core, { recursive: true, encoding: 'utf8' }).filter((file) => /[/\\](Facts|Moves)\.cs$/.test(file))
  // A fact that stands in no ledger, or under other names than its own, says so where it is declared.
  const facts = sources.flatMap((file) =>
    readFileSync(new URL(file, core), 'utf8')
      .split(/(?=^public sealed record )/m)
      .filter((one) => /^public sealed record \w+[^{;]*: \w*Fact\b/.test(one) && !one.includes('StandsInLedger => false'))
      .flatMap((one) => {
        const [, first, rest] = /^public sealed record (\w)(\w+)/.exec(one)!
        const naming = /string NameFor\(Actor by\)([^;]*);/.exec(one)?.[1]
        const others = [...(naming ?? '').matchAll(/"(\w+)"/g)].map((match) => match[1]!)
        return naming === undefined || naming.includes('base.') ? [first!.toLowerCase() + rest!, ...others] : others
      }),
  )
  expect(facts.length).toBeGreaterThan(70)
  for (const fact of facts) expect(en.ledger, fact).toHaveProperty(fact)
})

test('every order and audience is named where it is shown', () => {
  for (const order of namesOf('Order'))
    for (const audience of namesOf('Audience'))
      expect(en.orderDetail).toHaveProperty(`${order}${audience[0]!.toUpperCase()}${audience.slice(1)}`)
})

const pages = new URL('../', import.meta.url)
const sources = readdirSync(pages, { recursive: true, encoding: 'utf8' })
  .filter((file) => /\.tsx?$/.test(file) && !file.includes('.test.'))
  .map((file) => readFileSync(new URL(file, pages), 'utf8'))
  .join('\n')

test('every text is used, and every text that is asked for is there', () => {
  const asked = new Set([...sources.matchAll(/(['"])(\w+(?:\.\w+)*)\1/g)].map((match) => match[2]!))
  // What is put together: any words may stand in place of what is worked out.
  const together = [...sources.matchAll(/`(\w[\w.]*(?:\$\{(?:[^{}`]|\{[^{}`]*\})*\}[\w.]*)+)`/g)]
    .map((match) => match[1]!)
    .filter((one) => one.includes('.') || one.startsWith('${'))
    .map((one) => new RegExp(`^${one.replaceAll('.', '\\.').replace(/\$\{(?:[^{}]|\{[^{}]*\})*\}/g, '[\\w-]+')}$`))
  const all = [...texts(en).keys()]
  // Entries of the ledger may name a part of the catalogue whose keys the test of the orders holds.
  const unused = all.filter(
    (path) => !asked.has(path) && !path.startsWith('orderDetail.') && !together.some((pattern) => pattern.test(path)),
  )
  expect(unused).toEqual([])
  const missing = [...sources.matchAll(/\bt\(\s*'([\w.]+)'/g)].map((match) => match[1]!).filter((path) => !all.includes(path))
  expect(missing).toEqual([])
  expect([asked.size, together.length]).toEqual([expect.toSatisfy((n) => n > 1000), expect.toSatisfy((n) => n > 100)])
})

test('sentences do not shout', () => {
  expect(JSON.stringify([en, pl])).not.toContain('!')
})

/** Every text by its path, plural forms together. */
function texts(part: object, before = ''): Map<string, Map<string, string>> {
  const found = new Map<string, Map<string, string>>()
  for (const [key, value] of Object.entries(part) as [string, string | object][]) {
    if (typeof value === 'object') for (const [path, forms] of texts(value, `${before}${key}.`)) found.set(path, forms)
    else {
      const [, name, form] = /^(.*?)(?:_(zero|one|two|few|many|other))?$/.exec(key)!
      const path = before + name
      found.set(path, (found.get(path) ?? new Map<string, string>()).set(form ?? '', value))
    }
  }
  return found
}

test('the second language has every text, every plural form, and the same values in each', () => {
  const [english, polish] = [texts(en), texts(pl)]
  expect([...polish.keys()].sort()).toEqual([...english.keys()].sort())
  const forms = new Intl.PluralRules('pl').resolvedOptions().pluralCategories
  expect(forms).toContain('few')
  const valuesIn = (text: string) =>
    new Set([...text.matchAll(/{{(\w+)}}/g)].map((match) => match[1]).filter((name) => name !== 'count'))
  for (const [path, there] of polish) {
    const original = english.get(path)!
    if (original.has('other')) for (const form of forms) expect([...there.keys()], path).toContain(form)
    const wanted = valuesIn([...original.values()].join())
    for (const text of there.values())
      for (const value of valuesIn(text)) expect([...wanted], `${path}: ${text}`).toContain(value)
    if (path !== 'product' && !path.startsWith('command.misreading'))
      for (const text of there.values()) expect(text, path).not.toBe('')
  }
})
