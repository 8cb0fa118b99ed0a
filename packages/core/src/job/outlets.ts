import type { JobOutlet, JobPlan } from '../disinfection/plan'

/** An outlet counts as reached from this share of the target on. */
export const ARRIVED_SHARE = 0.8

export const arrivedAt = (mgL: number, targetMgL: number): boolean => mgL >= ARRIVED_SHARE * targetMgL

/** Minutes until the dose comes to an outlet: the pipe's water over its flow. */
export const arrivalMinutes = ({ pipeL, flowLMin }: Pick<JobOutlet, 'pipeL' | 'flowLMin'>): number => pipeL / flowLMin

/**
 * Outlets in the order they are run: cold first, the furthest from the entry first, then hot the same way. Hot ones are left out only
 * where there is no hot side; a heater in bypass still has hot pipes behind it.
 */
export function runningOrder(outlets: readonly JobOutlet[]): JobOutlet[] {
  return [...outlets].sort((a, b) => (a.side === b.side ? b.pipeL - a.pipeL : a.side === 'cold' ? -1 : 1))
}

export type NoArrival = 'bypass-open' | 'check-valve' | 'dead-leg' | 'dose-small' | 'used-up'
/** What to look for when nothing has come after twice the time, the likeliest first. */
export function noArrivalAdvice(
  plan: Pick<JobPlan, 'heater' | 'demand'>,
  outlet: JobOutlet,
  others: { arrived: number; short: number },
): NoArrival[] {
  const hot: NoArrival[] =
    outlet.side === 'hot' && plan.heater === 'bypass' ? ['bypass-open', 'check-valve'] : ['check-valve', 'bypass-open']
  const strength: NoArrival[] = ['dose-small', 'used-up']
  // Where other outlets have it the dose is good, and this branch is the question; where several are short the dose is.
  return others.short > 0 && others.arrived === 0 ? [...strength, ...hot, 'dead-leg'] : ['dead-leg', ...hot, ...strength]
}

/** When to say that it does not arrive. */
export const lateAfterMinutes = (outlet: Pick<JobOutlet, 'pipeL' | 'flowLMin'>): number => 2 * arrivalMinutes(outlet)
