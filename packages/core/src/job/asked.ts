import { requiredContact, slowFactor } from '../disinfection/contact'
import type { JobPlan } from '../disinfection/plan'

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
