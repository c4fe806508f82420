// Names the browser tests of a report that failed, or passed only when they were tried again: node scripts/browserTests.mjs report
import { readFileSync } from 'node:fs'

const words = { unexpected: 'Failed', flaky: 'Passed only at the second try' }

function tell(suite) {
  for (const spec of suite.specs ?? [])
    for (const test of spec.tests)
      if (words[test.status]) console.log(`  ${words[test.status]} ${suite.file}:${spec.line} ${spec.title}`)
  for (const inner of suite.suites ?? []) tell(inner)
}

try {
  JSON.parse(readFileSync(process.argv[2], 'utf8')).suites.forEach(tell)
} catch {
  console.log('  Failed: the browser tests left no report')
}
