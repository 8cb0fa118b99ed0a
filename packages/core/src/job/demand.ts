import type { Demand } from '../disinfection/plan'

/** Chlorine each mg/L of these uses up in theory, mg/L (stoichiometry of the oxidations). */
export const CHLORINE_PER: Readonly<Record<Exclude<keyof Demand, 'otherMgL'>, number>> = {
  ironMgL: 0.64,
  manganeseMgL: 1.3,
  sulphideMgL: 2.1,
  ammoniaNMgL: 7.6,
}
/** The plan adds twice the theory: reactions beside it use as much again. */
const TWICE = 2

export interface DemandPart {
  of: keyof Demand
  mgL: number
}

/** What each thing in the water uses up, mg/L of chlorine, those that are there. */
export function demandParts(demand: Demand): DemandPart[] {
  const known = (Object.keys(CHLORINE_PER) as (keyof typeof CHLORINE_PER)[]).map((of) => ({
    of: of as keyof Demand,
    mgL: TWICE * CHLORINE_PER[of] * demand[of],
  }))
  return [...known, { of: 'otherMgL' as const, mgL: demand.otherMgL }].filter(({ mgL }) => mgL > 0)
}

export const demandMgL = (demand: Demand): number => demandParts(demand).reduce((sum, { mgL }) => sum + mgL, 0)
