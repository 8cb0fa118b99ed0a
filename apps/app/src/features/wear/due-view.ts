import type { DueRow } from '@evenround/contract/due'
import { isOwn, MEDIA, type Medium } from '@evenround/core/catalogue'
import { addDays, daysBetween, type ShownUnits } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { causeWord, hundredths, reasonText, spentText } from '../../parts/wear/words'
import { daySpan, shortDay } from '../../ui/format'

export const SORTS = ['date', 'risk', 'place'] as const
export type Sort = (typeof SORTS)[number]
export const HORIZONS = ['now', '4w', '13w', 'all'] as const
export type Horizon = (typeof HORIZONS)[number]
export const ADVICES = ['shorten', 'lengthen'] as const
export type Advice = (typeof ADVICES)[number]

/** What the list shows, as its address says it. */
export interface DueFilters {
  sort: Sort
  horizon: Horizon
  island: string | null
  media: Medium | null
  /** Contracts that the survival curve would shorten or lengthen. */
  advice: Advice | null
  text: string
}

const one = <V extends string>(list: readonly V[], value: unknown, otherwise: V): V => list.find((entry) => entry === value) ?? otherwise

const own = (media: string): Medium | null => (isOwn(media) ? media : null)

/** Reads an address; whatever it says wrongly stands at its usual. */
export function filtersOf(params: Record<string, string | string[] | undefined>): DueFilters {
  const text = (name: string): string => {
    const value = params[name]
    return typeof value === 'string' ? value.slice(0, 80) : ''
  }
  return {
    sort: one(SORTS, params.sort, 'date'),
    horizon: one(HORIZONS, params.until, '13w'),
    island: text('island') || null,
    media: MEDIA.find((medium) => medium === params.media) ?? own(text('media')),
    advice: ADVICES.find((advice) => advice === params.advice) ?? null,
    text: text('text'),
  }
}

const HORIZON_DAYS: Record<Exclude<Horizon, 'all'>, number> = { now: 0, '4w': 28, '13w': 91 }

/** The filters as the server is asked; `today` is the firm's. */
export function queryOf(filters: DueFilters, today: string): Record<string, string> {
  const { sort, horizon, island, media, advice, text } = filters
  return {
    sort,
    ...(horizon === 'all' ? {} : { until: addDays(today, HORIZON_DAYS[horizon]) }),
    ...(island ? { island } : {}),
    ...(media ? { media } : {}),
    ...(advice ? { advice } : {}),
    ...(text.trim() ? { text: text.trim() } : {}),
  }
}

const AXIS_DAYS = 182
/** Places of a row's window on an axis of half a year from today. */
export function axisOf({ p10, p50, p90, due }: DueRow, today: string) {
  const at = (day: string): number => daysBetween(today, day) / AXIS_DAYS
  return { from: at(p10), middle: at(p50), to: at(p90), due: at(due.due) }
}

/** When it is to be changed, in a word: "now", "since 3 Nov", "today", "4 Mar". */
export function dueText({ due, state }: DueRow['due'], today: string): string {
  if (state === 'spent') return say`now`
  const days = daysBetween(today, due)
  if (days < 0) return say`since ${shortDay(due, today)}`
  return days === 0 ? say`today` : shortDay(due, today)
}

/** What is behind the day: that it is spent, overdue, any day, or its window; the reason; how far it may be over. */
export function windowText({ due, governing, dateKnown }: DueRow, today: string, units: ShownUnits): string {
  const unsure = dateKnown ? '' : say` · fitting date not known`
  const reason = reasonText(due, governing, units)
  const over = due.ended >= 0.005 ? say` · ${hundredths(due.ended)} in 100 spent` : ''
  switch (due.state) {
    case 'spent':
      return `${spentText(due)} · ${causeWord(due.pastLimit?.cause ?? governing, units)}${unsure}`
    case 'overdue':
      return say`overdue · ${reason}${over}${unsure}`
    case 'any-day':
      return say`any day until then · ${reason}${over}${unsure}`
    case 'good':
      return `${daySpan(due.windowFrom, due.windowTo, today)} · ${reason}${over}${unsure}`
  }
}
