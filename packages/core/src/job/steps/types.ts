import type { JobOutlet } from '../../disinfection/plan'
import type { Protection } from '../../train/protect'
import type { JobDose } from '../figures'

export const JOB_PHASES = ['ready', 'protect', 'dose', 'spread', 'flush', 'back'] as const
export type JobPhase = (typeof JOB_PHASES)[number]

/** A figure in a step's words, in SI; screens say it in the firm's units. */
export type StepValue = { kind: 'litres' | 'amount' | 'minutes' | 'grams' | 'hours'; value: number }

/** What the household is asked to hold off from: chemicals are not boiled out of water. */
export type JobHold = 'do-not-use' | 'boil-or-bottled' | 'chemicals'

export interface JobStep {
  /** Stable: the same act keeps its key when the plan is changed. */
  key: string
  phase: JobPhase
  /**
   * `tick`: done or not. `clock`: a timer of `minutes`. `choice`: one of `options`. `dose`: an amount goes in. `outlet`: run until a
   * strip shows the dose. `clear`: run until a strip shows it gone. `hold`: the customer is told and a hold begins. `finding`: what came
   * out is graded. `part`: what goes in is named, new or the old one from its bag.
   */
  kind: 'tick' | 'clock' | 'choice' | 'dose' | 'outlet' | 'clear' | 'hold' | 'finding' | 'part'
  /** `{name}` stands for a value. */
  text: string
  why: string
  caution?: string
  values?: Record<string, StepValue>
  minutes?: number
  options?: readonly { id: string; text: string }[]
  outlet?: JobOutlet
  dose?: { id: JobDose['id']; amount: number }
  hold?: JobHold
  /** Of a finding or a part. */
  stageId?: string
  system?: string
}

export interface Guarded {
  systemId: string
  systemName: string
  protection: Protection
}

/** What is known at the door beyond the plan. */
export interface JobKnown {
  /** Sites where the same person cleans a sleeve with descaler that day, by the van's list. */
  acidAt?: readonly string[]
  /** Fuel or chemicals may have come in with the flood; taken to be so until somebody rules it out. */
  chemicals?: boolean
}

type Draft = Omit<JobStep, 'key' | 'phase' | 'kind'> & { kind?: JobStep['kind'] }
export const step = (phase: JobPhase, id: string, draft: Draft): JobStep => ({ kind: 'tick', ...draft, key: `${phase}/${id}`, phase })
