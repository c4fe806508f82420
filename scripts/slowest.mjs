// The slowest tests of a run, from the reports of its runners: node scripts/slowest.mjs report…
import { readFileSync } from 'node:fs'

const most = 20
const seconds = (clock) => clock.split(':').reduce((all, part) => all * 60 + Number(part), 0)
const all = []

/** Playwright: suites in suites, and each try of a test. */
function specs(suite) {
  for (const spec of suite.specs ?? [])
    for (const test of spec.tests)
      all.push([test.results.reduce((sum, one) => sum + one.duration / 1000, 0), `${suite.file}: ${spec.title}`])
  for (const inner of suite.suites ?? []) specs(inner)
}

for (const path of process.argv.slice(2)) {
  let text
  try {
    text = readFileSync(path, 'utf8')
  } catch {
    continue
  }
  if (path.endsWith('.trx')) {
    for (const [line] of text.matchAll(/<UnitTestResult [^>]*>/g)) {
      const name = /testName="([^"]*)"/.exec(line)?.[1]
      const took = /duration="([^"]*)"/.exec(line)?.[1]
      if (name && took) all.push([seconds(took), name.replace(/^HoldCourt\.(\w+)\.Tests\./, '$1: ')])
    }
    continue
  }
  const report = JSON.parse(text)
  for (const suite of report.suites ?? []) specs(suite)
  for (const file of report.testResults ?? [])
    for (const one of file.assertionResults) all.push([(one.duration ?? 0) / 1000, `pages: ${one.fullName}`])
}
all.sort((one, other) => other[0] - one[0])
for (const [took, name] of all.slice(0, most)) console.log(`${took.toFixed(1).padStart(7)} s  ${name.slice(0, 150)}`)
