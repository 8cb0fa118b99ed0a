import type { HoldKind } from '../train/types'

/** Strictest first. */
export const HOLD_ORDER: readonly HoldKind[] = ['do-not-use', 'do-not-drink', 'boil-or-bottled', 'low-flow', 'first-tank', 'ice']

/** These end only by an authorised lift with its proof; the others end by time. */
export const SAFETY_HOLDS: readonly HoldKind[] = ['do-not-use', 'do-not-drink', 'boil-or-bottled']

/** The strictest of the holds that are on at `now` (instants as ISO UTC; until is exclusive); null when none is. */
export function strictestHold<T extends { holdKind: HoldKind; until: string | null }>(holds: readonly T[], now: string): T | null {
  const on = holds.filter(({ until }) => until === null || Date.parse(until) > Date.parse(now))
  return on.sort((a, b) => HOLD_ORDER.indexOf(a.holdKind) - HOLD_ORDER.indexOf(b.holdKind))[0] ?? null
}
