import type { Neutraliser } from './neutralise'
import type { Product } from './product'
import type { VolumePart } from './volume'

export const TARGETS = ['drilled-well', 'dug-well', 'storage-tank', 'vehicle-tank', 'plumbing', 'drinking-unit'] as const
export type Target = (typeof TARGETS)[number]
export const REASONS = ['bacteria', 'new-or-repaired', 'flood', 'opened', 'season', 'stagnation', 'yearly'] as const
export type Reason = (typeof REASONS)[number]
export const STRENGTH_SCHOOLS = ['weak-long', 'strong-short', 'well-double', 'by-depth', 'volume-unknown'] as const
export type StrengthSchool = (typeof STRENGTH_SCHOOLS)[number]
/** Where a part's water stands: in the source or a tank, or in pipes of the cold or the hot side. */
export const SIDES = ['source', 'tank', 'cold', 'hot'] as const
export type Side = (typeof SIDES)[number]
export const DISCHARGES = ['sewer', 'hard-surface', 'neutralised'] as const
export type Discharge = (typeof DISCHARGES)[number]
export const REPEATS = ['none', 'yearly', 'seasonal'] as const

export interface JobPart {
  id: string
  name: string
  side: Side
  part: VolumePart
}

/** A tap, toilet, shower, appliance or outside tap that is run until a strip shows the dose. */
export interface JobOutlet {
  id: string
  name: string
  side: 'cold' | 'hot'
  /** Water in the pipe between the entry and here, litres. */
  pipeL: number
  /** Flow when it is run, L/min, > 0. */
  flowLMin: number
  /** Nobody said how far it is: the pipe is a guess, and so is the time it takes. */
  assumed?: boolean | undefined
}

/** What the water itself uses up, mg/L of each. */
export interface Demand {
  ironMgL: number
  manganeseMgL: number
  sulphideMgL: number
  ammoniaNMgL: number
  /** Slime and what else is known to use chlorine, as chlorine. */
  otherMgL: number
}

/** A job as it is planned: only what somebody knows or chooses; figures are worked out from it, the same on every device. */
export interface JobPlan {
  targets: Target[]
  reason: Reason
  note: string
  /** Systems whose trains are protected and brought back; the unit itself for a job of its own. */
  systemIds: string[]
  /** Systems of the site that are left as they are, and why. */
  leftOut?: { systemId: string; reason: string }[] | undefined
  parts: JobPart[]
  product: Product
  productName: string
  /** With cyanuric acid in it: for pools, never for water that is drunk. Plans of before it was asked said nothing of it. */
  stabilised?: boolean | undefined
  /** A strip test of the thinned jug: what the strip showed, and how many times it was thinned. */
  jug: { mgL: number; dilution: number } | null
  school: StrengthSchool
  targetMgL: number
  contactHours: number
  /** Why more than 200 mg/L; null below it. */
  strengthReason: string | null
  /** Why strength × time comes to less than is usual for what is disinfected; null where it does not. */
  contactReason: string | null
  demand: Demand
  pH: number
  waterC: number
  heater: 'none' | 'bypass' | 'include'
  outlets: JobOutlet[]
  /** Of the pump or hose that moves the water, L/min. */
  flowLMin: number
  /** Mixed on the first day, run to the outlets on the second: where the pump would run for more than two hours. */
  secondDay?: boolean | undefined
  /** What stays in a tank when it is drained, litres. */
  heelL: number
  discharge: Discharge
  neutraliser: Neutraliser
  septic: boolean
  supply: 'private' | 'municipal'
  /** The supply's own chlorine, mg/L: what a municipal site is flushed down to. */
  supplyMgL: number
  /** Proved by a laboratory's sample; a unit alone may rest on its strips. */
  sample: boolean
  repeat: (typeof REPEATS)[number]
  /** Who does it, and the day the chlorine goes in. */
  technicianId: string
  day: string
  /** Treats the earlier job whose sample was positive. */
  afterJob: string | null
}
