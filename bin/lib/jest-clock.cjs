// Tests of a run share its clock; a test run by hand lives on the usual day too. Each test file has globals of its own.
const { aheadOf, moveClock, TEST_DAY } = require('./clock.cjs')

if (process.env.EVEN_ROUND_CLOCK_AHEAD_MS === undefined) {
  process.env.EVEN_ROUND_CLOCK_AHEAD_MS = String(aheadOf(TEST_DAY))
  moveClock(globalThis, Number(process.env.EVEN_ROUND_CLOCK_AHEAD_MS))
}
