import { requiredContact, slowFactor } from '../disinfection/contact'
import type { JobPlan } from '../disinfection/plan'
import { atLeast } from '../units'
import { isOwnUnit, isTank, isWell, schoolOf } from './schools'

export interface ContactAsked {
  hours: number
  mgMinL: number
  /** Above pH 8 or below 5 °C: both are twice what the plan says. */
  slowWater: boolean
}

/** What a plan's contact comes to in its own water: the hours the flush waits for, and the contact that strips have to show. */
export function contactAsked({
  targetMgL,
  contactHours,
  pH,
  waterC,
}: Pick<JobPlan, 'targetMgL' | 'contactHours' | 'pH' | 'waterC'>): ContactAsked {
  const factor = slowFactor({ ph: pH, waterC })
  const hours = contactHours * factor
  return { hours, mgMinL: requiredContact(targetMgL, hours), slowWater: factor > 1 }
}

/** Strength × time that wells and tanks are planned for at the least, half of it counted since the chlorine may fall by half. */
const WELLS_AND_TANKS_MG_H_L = 300
const COUNTED = 0.5

/**
 * What a plan's strength and time come to, mg·h/L, and what is usual: 300 for wells and tanks, else the school's own pair. Less than that
 * is planned only with a written reason. Source: waterworks practice of 50 mg/L over 12 h.
 */
export function plannedContact({
  targets,
  school,
  targetMgL,
  contactHours,
}: Pick<JobPlan, 'targets' | 'school' | 'targetMgL' | 'contactHours'>): {
  mgHL: number
  usualMgHL: number
  less: boolean
} {
  const own = schoolOf(targets, school)
  const big = (isWell(targets) || isTank(targets)) && !isOwnUnit(targets)
  const usualMgHL = big ? WELLS_AND_TANKS_MG_H_L : own.targetMgL * own.contactHours * COUNTED
  const mgHL = targetMgL * contactHours * COUNTED
  return { mgHL, usualMgHL, less: !atLeast(mgHL, usualMgHL) }
}
