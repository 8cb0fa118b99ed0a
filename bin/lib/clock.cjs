// One clock for a test run. EVEN_ROUND_CLOCK_AHEAD_MS says by how much everything runs ahead of the machine: the server and its
// worker threads, the test runners and the browser's pages. Loaded before anything else (node --require, Jest's setupFiles).
// Time goes on at its own pace; clocks that only measure (performance.now, timers) are left alone.

const { BroadcastChannel, isMainThread } = require('node:worker_threads')

/** Replaces Date in `scope` by one that runs `ahead` milliseconds ahead, or as far as it says each time. Self-contained: pages get its source. */
function moveClock(scope, ahead) {
  const Real = scope.Date
  const now = () => Real.now() + (typeof ahead === 'function' ? ahead() : ahead)
  scope.Date = new Proxy(Real, {
    construct: (target, args, asked) =>
      args.length === 0 ? Reflect.construct(target, [now()], asked) : Reflect.construct(target, args, asked),
    apply: () => new Real(now()).toString(),
    get: (target, name) => (name === 'now' ? now : Reflect.get(target, name)),
  })
}

/** The day on which tests live unless another is asked for, and the hour (UTC) at which a run begins. */
const TEST_DAY = '2026-11-25'
const TEST_HOUR = 10

/** How far ahead of the machine, whose clock says `nowMs`, a run on `day` is. */
function aheadOf(day, nowMs = Date.now()) {
  const from = Date.parse(`${day}T${TEST_HOUR}:00:00Z`)
  if (!/^\d{4}-\d{2}-\d{2}$/.test(day) || Number.isNaN(from) || new Date(from).toISOString().slice(0, 10) !== day)
    throw new RangeError(`A day is written like 2028-02-29, got ${day}`)
  return from - nowMs
}

let aheadMs = Number(process.env.EVEN_ROUND_CLOCK_AHEAD_MS ?? 0)

/** A test lets days go by in a running server: its parent says how far ahead it is from now on, and each of its threads follows. */
function followMoves() {
  moveClock(globalThis, () => aheadMs)
  const threads = new BroadcastChannel('even-round-clock')
  threads.unref()
  threads.onmessage = ({ data }) => {
    aheadMs = data
  }
  if (isMainThread)
    process.on('message', ({ clockAheadMs }) => {
      aheadMs = clockAheadMs
      // Threads that begin later take it from here.
      process.env.EVEN_ROUND_CLOCK_AHEAD_MS = String(aheadMs)
      threads.postMessage(aheadMs)
      process.send({ clockAheadMs })
    })
}

if (process.env.EVEN_ROUND_CLOCK_MOVES === '1') followMoves()
else if (aheadMs !== 0) moveClock(globalThis, aheadMs)

module.exports = { moveClock, aheadOf, TEST_DAY }
