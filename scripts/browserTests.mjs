// Names the browser tests of reports that failed, or passed only when they were tried again, and leaves their numbers in a file:
// node scripts/browserTests.mjs numbers report…
import { readFileSync, writeFileSync } from 'node:fs'

const words = { unexpected: 'Failed', flaky: 'Passed only at the second try' }
const numbers = { passed: 0, failed: 0 }

function look(suite) {
  for (const spec of suite.specs ?? [])
    for (const test of spec.tests) {
      if (words[test.status]) console.log(`  ${words[test.status]} ${suite.file}:${spec.line} ${spec.title}`)
      if (test.status === 'unexpected') numbers.failed++
      else if (test.status !== 'skipped') numbers.passed++
    }
  for (const inner of suite.suites ?? []) look(inner)
}

const [, , to, ...reports] = process.argv
for (const report of reports)
  try {
    JSON.parse(readFileSync(report, 'utf8')).suites.forEach(look)
  } catch {
    numbers.failed++
    console.log('  Failed: the browser tests left no report')
  }
writeFileSync(to, `${numbers.passed} ${numbers.failed}`)
