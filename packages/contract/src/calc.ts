import { contact, dose, flush, neutralise, volume } from '@evenround/core/disinfection'
import { membrane, resin, tds } from '@evenround/core/readings'
import { check } from '@evenround/core/train/check'
import { say } from '@evenround/core/words'
import { z } from 'zod'
import { contactInputSchema, doseInputSchema, flushInputSchema, neutraliseInputSchema, volumeInputSchema } from './disinfection'
import type { FieldProblem } from './errors'
import { problemsOf } from './problems'
import { membraneInputSchema, resinInputSchema, tdsInputSchema } from './readings'
import { costOf, planWithin, roundCostSchema, roundPlanSchema } from './round'
import { trainCheckSchema } from './train-check'
import { trainSheetSchema } from './train-sheet'
import { dueByRule, wearDueSchema } from './wear-due'
import { forecastWithNarrowing, wearInputSchema } from './wear-input'
import { costOfYear, planYearWithin, yearCostSchema, yearPlanSchema } from './year'

/** One function of the scriptable core: its input schema and the pure function behind it. */
interface CalcEntry {
  schema: z.ZodType
  /** Reads one input: what is wrong with it, or how to compute. */
  read: (input: unknown) => { ok: true; run: () => unknown } | { ok: false; error: z.ZodError }
}
const entry = <S extends z.ZodType>(schema: S, run: (input: z.output<S>) => unknown): CalcEntry => ({
  schema,
  read: (input) => {
    const { success, data, error } = schema.safeParse(input)
    return success ? { ok: true, run: () => run(data) } : { ok: false, error }
  },
})

/** Every callable name, for `bin/calc` and `POST /api/calc/NAME` alike. */
export const CALC: Readonly<Record<string, CalcEntry>> = {
  'readings.tds': entry(tdsInputSchema, tds),
  'readings.membrane': entry(membraneInputSchema, membrane),
  'readings.resin': entry(resinInputSchema, resin),
  'disinfection.volume': entry(volumeInputSchema, volume),
  'disinfection.dose': entry(doseInputSchema, dose),
  'disinfection.contact': entry(contactInputSchema, contact),
  'disinfection.flush': entry(flushInputSchema, flush),
  'disinfection.neutralise': entry(neutraliseInputSchema, neutralise),
  'wear.forecast': entry(wearInputSchema, forecastWithNarrowing),
  'wear.due': entry(wearDueSchema, dueByRule),
  'train.sheet': entry(trainSheetSchema, (made) => made),
  'round.plan': entry(roundPlanSchema, planWithin),
  'round.cost': entry(roundCostSchema, costOf),
  'train.check': entry(trainCheckSchema, check),
  'year.plan': entry(yearPlanSchema, planYearWithin),
  'year.cost': entry(yearCostSchema, costOfYear),
}

/** Whether every figure of an output is one: JSON has no other, and a figure without end is no answer. */
function isWorkable(output: unknown): boolean {
  if (typeof output === 'number') return Number.isFinite(output)
  return typeof output !== 'object' || output === null || Object.values(output).every(isWorkable)
}

export type CalcAnswer = { ok: true; output: unknown } | { ok: false; problems: FieldProblem[] }

/**
 * Runs a named function on one input or an array of inputs (giving an array of outputs).
 * All problems of all inputs come back at once, with their paths; then nothing is computed.
 * Throws `RangeError` for a name that is not in `CALC`.
 */
export function runCalc(name: string, input: unknown): CalcAnswer {
  const found = Object.hasOwn(CALC, name) ? CALC[name] : undefined
  if (!found) throw new RangeError(`no such function: ${name}`)
  const batch = Array.isArray(input)
  const inputs: unknown[] = batch ? input : [input]
  const problems: FieldProblem[] = []
  const runs: (() => unknown)[] = []
  inputs.forEach((one, index) => {
    const result = found.read(one)
    if (result.ok) runs.push(result.run)
    else problems.push(...problemsOf(result.error, one, batch ? `[${index}]` : ''))
  })
  if (problems.length > 0) return { ok: false, problems }
  const outputs = runs.map((run) => run())
  const endless = outputs.flatMap((output, index) => (isWorkable(output) ? [] : [batch ? `[${index}]` : '$']))
  if (endless.length > 0)
    return {
      ok: false,
      problems: endless.map((path) => ({ path, message: say`expected figures a result can be worked out from: it is beyond any number` })),
    }
  return { ok: true, output: batch ? outputs : outputs[0] }
}

/** JSON Schema (2020-12) of a function's input. */
export function calcJsonSchema(name: string): unknown {
  const found = Object.hasOwn(CALC, name) ? CALC[name] : undefined
  if (!found) throw new RangeError(`no such function: ${name}`)
  return z.toJSONSchema(found.schema, { io: 'input' })
}
