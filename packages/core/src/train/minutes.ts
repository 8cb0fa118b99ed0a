import type { SheetStep, Verb } from './types'

/**
 * Minutes of hands a step takes where nothing else is said, by somebody who knows the work. Ours: two housings under a sink then come to
 * 10 to 20, three to 15 to 30, five stages of reverse osmosis to 25 to 50 (`procedures.md`).
 */
export const USUAL_MINUTES: Readonly<Record<Verb, number>> = {
  measure: 1.5,
  tell: 0.5,
  ask: 0.25,
  'power-off': 0.5,
  'power-on': 0.5,
  close: 0.25,
  open: 0.5,
  turn: 0.25,
  relieve: 0.5,
  catch: 0.25,
  drain: 1,
  loosen: 0.25,
  'open-housing': 0.5,
  'take-out': 0.25,
  inspect: 0.5,
  wash: 0.75,
  grease: 0.25,
  fit: 0.5,
  'close-housing': 0.5,
  disconnect: 0.5,
  connect: 0.5,
  flush: 5,
  soak: 0,
  trickle: 30,
  backwash: 5,
  wait: 5,
  'leak-check': 1,
  reset: 0.25,
  mark: 0.25,
  record: 0.5,
  hold: 0.25,
  // Of a disinfection, whose job has clocks of its own.
  dose: 1,
  strip: 1,
  sample: 1,
}

/** Verbs that run by themselves while other work goes on. */
const BY_ITSELF: ReadonlySet<Verb> = new Set(['flush', 'soak', 'trickle', 'backwash', 'wait'])

export interface SheetMinutes {
  /** Minutes of hands. */
  handsOnMin: number
  /** Minutes of flushes, trickles, backwashes and waits. */
  waitingMin: number
}

/** What steps take: minutes of hands, and apart from them the minutes that run by themselves; both at least 0. */
export function minutesOf(steps: readonly Pick<SheetStep, 'verb' | 'minutes'>[]): SheetMinutes {
  let [handsOnMin, waitingMin] = [0, 0]
  for (const { verb, minutes } of steps) {
    if (BY_ITSELF.has(verb)) waitingMin += minutes
    else handsOnMin += minutes
  }
  return { handsOnMin, waitingMin }
}

/** Minutes from the first of these steps to the last, with nothing done meanwhile; at least 0. */
export function inAllMin(steps: readonly Pick<SheetStep, 'verb' | 'minutes'>[]): number {
  const { handsOnMin, waitingMin } = minutesOf(steps)
  return handsOnMin + waitingMin
}
