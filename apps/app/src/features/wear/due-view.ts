import type { DueRow } from '@evenround/contract/due'
import { MEDIA, type Medium } from '@evenround/core/catalogue'
import { addDays, daysBetween } from '@evenround/core/units'
import { CAUSE_WORDS, isSpent, spentText } from '../../parts/wear/words'
import { daySpan, shortDay } from '../../ui/format'

export const SORTS = ['date', 'risk', 'place'] as const
export type Sort = (typeof SORTS)[number]
export const HORIZONS = ['now', '4w', '13w', 'all'] as const
export type Horizon = (typeof HORIZONS)[number]

/** What the list shows, as its address says it. */
export interface DueFilters {
  sort: Sort
  horizon: Horizon
  island: string | null
  media: Medium | null
  text: string
}

const one = <V extends string>(list: readonly V[], value: unknown, otherwise: V): V => list.find((entry) => entry === value) ?? otherwise

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
    media: MEDIA.find((medium) => medium === params.media) ?? null,
    text: text('text'),
  }
}

const HORIZON_DAYS: Record<Exclude<Horizon, 'all'>, number> = { now: 0, '4w': 28, '13w': 91 }

/** The filters as the server is asked; `today` is the firm's. */
export function queryOf(filters: DueFilters, today: string): Record<string, string> {
  const { sort, horizon, island, media, text } = filters
  return {
    sort,
    ...(horizon === 'all' ? {} : { until: addDays(today, HORIZON_DAYS[horizon]) }),
    ...(island ? { island } : {}),
    ...(media ? { media } : {}),
    ...(text.trim() ? { text: text.trim() } : {}),
  }
}

const AXIS_DAYS = 182
/** Places of a row's window on an axis of half a year from today. */
export function axisOf({ p10, p50, p90, dueOn }: DueRow, today: string) {
  const at = (day: string): number => daysBetween(today, day) / AXIS_DAYS
  return { from: at(p10), middle: at(p50), to: at(p90), due: at(dueOn) }
}

/** "due since 3 Nov", "due today", "due 4 Mar". */
export function dueText(dueOn: string, today: string): string {
  const days = daysBetween(today, dueOn)
  if (days < 0) return `since ${shortDay(dueOn, today)}`
  if (days === 0) return 'today'
  return shortDay(dueOn, today)
}

/** "24 Feb–19 Mar · litres · 12 % over", or that it is spent: nothing is promised of it any more. */
export function windowText({ p10, p90, governing, ended, dateKnown }: DueRow, today: string): string {
  const unsure = dateKnown ? '' : ' · fitting date not known'
  if (isSpent({ ended })) return `${spentText({ ended })} · ${CAUSE_WORDS[governing]}${unsure}`
  const over = ended >= 0.005 ? ` · ${Math.round(100 * ended)} % over` : ''
  return `${daySpan(p10, p90, today)} · ${CAUSE_WORDS[governing]}${over}${unsure}`
}
