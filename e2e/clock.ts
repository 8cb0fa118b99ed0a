import { moveClock } from '../bin/lib/clock.cjs'

/** Puts a page on the clock of the run, like the server it speaks with. */
export const CLOCK_OF_PAGES = `(${moveClock})(globalThis, ${process.env.EVEN_ROUND_CLOCK_AHEAD_MS ?? 0})`

/** What that clock says, in milliseconds: the runner is started on it (bin/lib/test.mjs), so that it is the runner's own. */
export const clockOfRun = (): number => Date.now()
