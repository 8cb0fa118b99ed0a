import type { Reason, StrengthSchool, Target } from '../disinfection/plan'

export interface School {
  targetMgL: number
  contactHours: number
  /** The least that may be chosen where the water must be back the same day. */
  leastHours: number
}

/** Strength and time by school: standard waterworks practice for tanks, plumbing and wells. */
export const SCHOOLS: Readonly<Record<StrengthSchool, School>> = {
  'weak-long': { targetMgL: 50, contactHours: 12, leastHours: 12 },
  'strong-short': { targetMgL: 200, contactHours: 4, leastHours: 4 },
  'well-double': { targetMgL: 50, contactHours: 12, leastHours: 4 },
  'by-depth': { targetMgL: 50, contactHours: 12, leastHours: 4 },
  'volume-unknown': { targetMgL: 50, contactHours: 12, leastHours: 12 },
}

/** A drinking-water unit on its own: 50 to 100 mg/L for half an hour. */
export const UNIT_SCHOOL: School = { targetMgL: 50, contactHours: 0.5, leastHours: 0.5 }

export const isWell = (targets: readonly Target[]): boolean => targets.includes('drilled-well') || targets.includes('dug-well')
export const isTank = (targets: readonly Target[]): boolean => targets.includes('storage-tank') || targets.includes('vehicle-tank')
export const isOwnUnit = (targets: readonly Target[]): boolean => targets.includes('drinking-unit')

/** Whether water that stood stored before the job may be drunk meanwhile: not where germs were found, or a flood brought anything in. */
export const storedIsFit = (reason: Reason): boolean => reason !== 'bacteria' && reason !== 'flood'

/** Schools that fit what is disinfected, the default first. */
export function schoolsFor(targets: readonly Target[]): StrengthSchool[] {
  if (isOwnUnit(targets)) return ['weak-long']
  return isWell(targets)
    ? ['well-double', 'weak-long', 'strong-short', 'by-depth', 'volume-unknown']
    : ['weak-long', 'strong-short', 'volume-unknown']
}

export const schoolOf = (targets: readonly Target[], school: StrengthSchool): School => (isOwnUnit(targets) ? UNIT_SCHOOL : SCHOOLS[school])
