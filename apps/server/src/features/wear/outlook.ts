import type { StageDto } from '@evenround/contract/site'
import type { StageDueDto } from '@evenround/contract/wear'
import { dueOf, failureProbability, forecast, ruleOf, survivalCurveOf, type WearInput } from '@evenround/core/wear'
import { LRUCache } from 'lru-cache'
import { languageAsked } from '../../http/language'
import type { KnownStage } from './inputs'

export interface Outlook {
  forecast: StageDto['forecast']
  due: StageDueDto | null
}

/** Some thousand stages: those of the stops and sites that are looked at all day. */
const MOST_BYTES = 16 * 1024 * 1024
/** What was worked out, roughly, beside the knowledge it is found by. */
const OUTLOOK_BYTES = 3072
const made = new LRUCache<string, Outlook>({ maxSize: MOST_BYTES, sizeCalculation: (_, key) => key.length + OUTLOOK_BYTES })

function forecastOf(input: WearInput): StageDto['forecast'] {
  const result = forecast(input)
  if (!result.ok) return null
  const { ok: _, ...wear } = result
  return wear
}

/**
 * When what is in a stage will be done, and the day to change it by the rule in force; nothing where nothing rates it. Both follow from
 * what is known and the rule alone, so that the same knowledge is worked out once. The chance that it is over is read off the survival
 * curve as it is stored, so that a page and the list never differ by a hair.
 */
export function outlookOf({ input, rule }: Pick<KnownStage, 'input' | 'rule'>): Outlook {
  if (input === null) return { forecast: null, due: null }
  const key = JSON.stringify([languageAsked(), input, rule])
  const had = made.get(key)
  if (had !== undefined) return had
  const due = dueOf(input, ruleOf(rule))
  const curve = survivalCurveOf(input)
  const outlook: Outlook = {
    forecast: forecastOf(input),
    due: due === null || curve === null ? null : { ...due, ended: failureProbability(curve, input.today), rule },
  }
  made.set(key, outlook)
  return outlook
}
