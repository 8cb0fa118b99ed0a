/** One look at a litre counter. */
export interface CounterReading {
  /** Instant, milliseconds since 1970. */
  atMs: number
  /** What it showed, litres. */
  displayL: number
  /** Somebody put a new meter in, or set it to nothing, since the look before: it began again at 0. */
  startedOver: boolean
  /** This is another counter than the look before was taken on: nothing is known of the litres between the two. */
  otherCounter?: boolean
}

export type CounterStep = 'first' | 'forward' | 'rolled-over' | 'started-over' | 'other-counter' | 'backward'

export interface CounterCount {
  atMs: number
  /** Litres since the first look, never falling. */
  totalL: number
  step: CounterStep
}

/** A counter with `digits` places shows nothing again after this many litres. */
const rangeOf = (displayL: number): number => 10 ** Math.max(4, Math.ceil(Math.log10(displayL + 1)))
/** It stood in the last tenth of its range: then a small number after a large one is a roll-over. */
const NEARLY_FULL = 0.9
/** And it has not gone round by more than this share since. */
const JUST_BEGUN = 0.5

/**
 * What a counter means across roll-overs and new meters: litres since the first look, in order of time.
 * A display that falls is a roll-over when it stood near the top of its decimal range, a fresh start when somebody said so,
 * and otherwise `backward`: nothing is counted for it and the screen asks.
 */
export function countLitres(looks: readonly CounterReading[]): CounterCount[] {
  const sorted = [...looks].sort((a, b) => a.atMs - b.atMs)
  const counts: CounterCount[] = []
  let total = 0
  let before: CounterReading | null = null
  for (const look of sorted) {
    const step = stepOf(before, look)
    if (before !== null) total += litresOf(step, before, look)
    counts.push({ atMs: look.atMs, totalL: total, step })
    if (step !== 'backward') before = look
  }
  return counts
}

function stepOf(before: CounterReading | null, look: CounterReading): CounterStep {
  if (before === null) return 'first'
  if (look.otherCounter === true) return 'other-counter'
  if (look.startedOver) return 'started-over'
  if (look.displayL >= before.displayL) return 'forward'
  const range = rangeOf(before.displayL)
  return before.displayL >= NEARLY_FULL * range && look.displayL < JUST_BEGUN * range ? 'rolled-over' : 'backward'
}

function litresOf(step: CounterStep, before: CounterReading, look: CounterReading): number {
  switch (step) {
    case 'forward':
      return look.displayL - before.displayL
    case 'started-over':
      return look.displayL
    case 'rolled-over':
      return rangeOf(before.displayL) - before.displayL + look.displayL
    default:
      return 0
  }
}

/**
 * Litres between an instant and the counts after it: `since` is where the count stood then, straight between its neighbours,
 * or at the nearest count when it lies outside. Looks that went backward are left out.
 */
export function litresSince(counts: readonly CounterCount[], sinceMs: number): { atMs: number; litres: number }[] {
  const good = counts.filter(({ step }) => step !== 'backward')
  const after = good.filter(({ atMs }) => atMs >= sinceMs)
  const first = after[0]
  if (first === undefined) return []
  const before = good.findLast(({ atMs }) => atMs < sinceMs)
  const share = before === undefined ? 1 : (sinceMs - before.atMs) / (first.atMs - before.atMs)
  const start = before === undefined ? first.totalL : before.totalL + share * (first.totalL - before.totalL)
  return after.map(({ atMs, totalL }) => ({ atMs, litres: totalL - start }))
}
