// The order of test files: what takes longest first, so that the end of a run waits for none of them; then by size.
const { statSync } = require('node:fs')

/** Each takes over five seconds alone; the first one a minute. */
const LONGEST = [
  'apps/server/src/demo/sound.test.ts',
  'apps/server/src/features/wear/rules.test.ts',
  'packages/core/src/train/changed.test.ts',
  'packages/core/src/train/mutants/mutants.test.ts',
  'packages/core/src/train/mutants/harms.test.ts',
  'apps/server/src/features/round/round.test.ts',
  'apps/server/src/tenant.test.ts',
  'packages/core/src/round/round.test.ts',
  'packages/core/src/train/families.test.ts',
]

/** The runner asks for nothing else where no part of the tests is chosen by number. */
class LongestFirst {
  sort(tests) {
    const rank = ({ path }) => {
      const at = LONGEST.findIndex((name) => path.endsWith(name))
      return at < 0 ? LONGEST.length : at
    }
    const size = new Map(tests.map(({ path }) => [path, statSync(path).size]))
    return [...tests].sort((a, b) => rank(a) - rank(b) || size.get(b.path) - size.get(a.path))
  }

  allFailedTests() {
    throw new Error('Which tests failed last time is not kept.')
  }

  cacheResults() {
    // How long each took is not kept: the order is the same on every machine.
  }
}

module.exports = LongestFirst
