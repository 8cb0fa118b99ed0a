import { surpriseOf } from '../train/surprises'
import { VERBS } from '../train/types'
import { chose, done, early, leftOut } from './step-result'
import type { StepResult } from './types'

/** The protocol in which steps say how they came out by fields of their own; before it one text had to be read for it. */
const STEPS_BY_FIELDS = 2

const isRecord = (value: unknown): value is Record<string, unknown> => typeof value === 'object' && value !== null && !Array.isArray(value)
const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/

/** What a key of a sheet's step says of it: `soak/soak:ID` soaks the stage ID. Keys of a disinfection's steps name no verb. */
export function stepOfKey(stepKey: string): { verb: (typeof VERBS)[number] | null; stageId: string | null } {
  const [, named = '', about = ''] = /^[^/]*\/([a-z-]+):(.*)$/.exec(stepKey) ?? []
  const verb = VERBS.find((one) => one === named) ?? null
  const [first = ''] = about.split(/[+.>]/)
  return { verb, stageId: verb !== null && UUID.test(first) ? first : null }
}

/** Reads the one text of the first protocol: free words, an option, or a reason behind a word. */
function resultOfAnswer(answer: unknown): StepResult {
  if (typeof answer !== 'string') return done()
  const [, why] = /^left(?: out)?: ([\s\S]*)$/.exec(answer) ?? []
  if (why !== undefined) return leftOut(why)
  const [, left] = /^stopped with ([\s\S]*) left$/.exec(answer) ?? []
  if (left !== undefined) return early(left)
  if (answer === 'carried away') return chose('carried-away')
  return /^[a-z][a-z-]{0,30}$/.test(answer) ? chose(answer) : done(answer)
}

/**
 * A fact as a client of an older protocol sends it, in today's fields; anything else comes back as it is, to be judged at the door.
 * Also what a device kept unsent through an update of the program.
 */
export function upgradeFact(raw: unknown, protocol: number): unknown {
  if (protocol >= STEPS_BY_FIELDS || !isRecord(raw)) return raw
  if (raw.kind === 'step-done' && !('outcome' in raw)) {
    const { answer, ...rest } = raw
    const step = typeof raw.stepKey === 'string' ? stepOfKey(raw.stepKey) : { verb: null, stageId: null }
    return { ...rest, ...step, ...resultOfAnswer(answer) }
  }
  if (raw.kind === 'step-surprise' && !('surprise' in raw)) {
    const { answer, ...rest } = raw
    const said = typeof answer === 'string' ? surpriseOf(answer) : null
    return said === null ? raw : { ...rest, surprise: said.id, stageId: said.stage }
  }
  return raw
}
