import { inService, play, type TrainState } from './machine/state'
import { USUAL_MINUTES } from './minutes'
import { fillTemplate, type MessageValues } from './say'
import type { SheetStep, Train, Verb } from './types'

export interface StepDraft {
  /** `{litres}` and `{kg}` stand for the values. */
  text: string
  why: string
  values?: MessageValues
  to?: string
  caution?: string
  evidence?: SheetStep['evidence']
  minutes?: number
  litres?: number
  hours?: number
  tools?: string[]
  consumables?: string[]
}

/** A sheet being written: each step is played as it is added, so that the next phase knows how the train stands. */
export class Work {
  readonly state: TrainState
  readonly steps: SheetStep[] = []
  private readonly keys = new Set<string>()

  /** What is done once a look for leaks was added: something may have dripped there. */
  looked: (key: string) => void = () => undefined

  constructor(readonly train: Train) {
    this.state = inService(train)
  }

  /** Adds and plays a step; its key is stable because it names the phase, the verb and the thing. */
  add(phase: string, verb: Verb, at: string[], draft: StepDraft): string {
    const key = keyOf(phase, verb, at, draft.to)
    if (this.keys.has(key)) throw new RangeError(`step key must be new, got ${key} twice`)
    this.keys.add(key)
    const { minutes = USUAL_MINUTES[verb], tools = [], consumables = [], values, ...rest } = draft
    const step: SheetStep = { n: this.steps.length + 1, key, verb, at, minutes, tools, consumables, block: '', ...rest }
    if (values) {
      step.said = { text: draft.text, why: draft.why, values }
      step.text = fillTemplate(draft.text, values)
      step.why = fillTemplate(draft.why, values)
    }
    this.steps.push(step)
    play(this.train, this.state, step)
    return key
  }
}

/** What a closing of its own (a second visit, a bed, what came later) puts before the names of its phases. */
const CLOSING = /^(second\d*|visit\d+(?:bed\d+)?|bed\d*|more|then\d+)-/
export const closingOf = (key: string): string => CLOSING.exec(key)?.[0] ?? ''
/** The name of a phase, or a step's key, as it is in the first closing. */
export const withoutClosing = (key: string): string => key.replace(CLOSING, '')

const keyOf = (phase: string, verb: Verb, at: readonly string[], to: string | undefined): string =>
  `${phase}/${verb}:${at.join('+')}${to === undefined ? '' : `>${to}`}`
