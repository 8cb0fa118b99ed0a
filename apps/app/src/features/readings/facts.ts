import type { NewFact } from '../../data/outbox'
import { type Draft, type Judgement, keptKey, type Meter, type Water } from './judge'

interface TdsFactInput {
  siteId: string
  systemId: string
  visitId: string
  phase: 'before' | 'after'
  water: Water
  draft: Draft
  judgement: Judgement
  meter: Meter
}

/** The fields of a TDS reading as a person took it; null while there is no number. */
export function tdsFields({ water, draft, judgement, meter }: Pick<TdsFactInput, 'water' | 'draft' | 'judgement' | 'meter'>) {
  const { display } = judgement[water]
  if (display === null) return null
  const typed = draft[water]
  return {
    display,
    multiplier: typed.timesTen ? (10 as const) : (1 as const),
    ...meter,
    temperatureC: judgement.temperature.value,
    settled: typed.settled,
    keptDespiteDoubt: typed.kept === keptKey(typed),
  }
}

/** A TDS reading as a fact; null while there is no number. */
export function tdsFact({ siteId, systemId, visitId, phase, water, ...typed }: TdsFactInput): (NewFact & { kind: 'tds-reading' }) | null {
  const reading = tdsFields({ water, ...typed })
  return reading === null ? null : { kind: 'tds-reading', siteId, visitId, systemId, phase, water, ...reading }
}
