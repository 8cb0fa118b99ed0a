import { runCalc } from '@evenround/contract/calc'
import type { FieldProblem } from '@evenround/contract/errors'
import { say } from '@evenround/core/words'

/** Whoever sends a long list of the wrong form needs the first of it told, not all. */
const MOST_TOLD = 100

/** An answer of the core as the JSON text it is sent as, or what is wrong with what was asked. */
export type TextAnswer = { ok: true; text: string } | { ok: false; problems: FieldProblem[] }

/** A named function of the core from JSON text to JSON text: large ones are read and written in the thread that works them out. */
export function calcByText(name: string, text: string): TextAnswer {
  let input: unknown
  try {
    input = JSON.parse(text)
  } catch {
    return { ok: false, problems: [{ path: '$', message: say`expected JSON` }] }
  }
  const answer = runCalc(name, input)
  return answer.ok ? { ok: true, text: JSON.stringify(answer.output) } : { ok: false, problems: answer.problems.slice(0, MOST_TOLD) }
}
