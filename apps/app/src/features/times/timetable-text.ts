import type { CrossingDto } from '@evenround/contract/crossing'
import { timeOfDay } from '../../ui/format'
import { minuteOf } from '../../ui/minute'

type Season = NonNullable<CrossingDto['seasons']>[number]
type Tides = NonNullable<CrossingDto['tides']>
type Span = [number, number]

const parts = (text: string): string[] => text.split(/[,;]/).flatMap((part) => (part.trim() === '' ? [] : [part.trim()]))
const lines = (text: string): string[] => text.split('\n').flatMap((line) => (line.trim() === '' ? [] : [line.trim()]))
const allOf = <T>(values: readonly (T | null)[]): T[] | null => {
  const all = values.filter((value): value is T => value !== null)
  return all.length === values.length ? all : null
}

/** "8:30, 9:40" as minutes after midnight; null where one is no time. */
export const timesOf = (text: string): number[] | null => allOf(parts(text).map(minuteOf))
export const timesText = (minutes: readonly number[]): string => minutes.map(timeOfDay).join(', ')

/** "5:30–10:00, 12:00–15:00" as spans; null where one is none. */
export const spansOf = (text: string): Span[] | null =>
  allOf(
    parts(text).map((part): Span | null => {
      const [begins, ends] = part.split(/[–-]/).map(minuteOf)
      return begins != null && ends != null && begins < ends ? [begins, ends] : null
    }),
  )
export const spansText = (spans: readonly Span[]): string =>
  spans.map(([begins, ends]) => `${timeOfDay(begins)}–${timeOfDay(ends)}`).join(', ')

const SEASON = /^(\d\d-\d\d)\s*(?:–|—|-|\.\.|to|bis)\s*(\d\d-\d\d)\s*:([^/]*)\/(.*)$/
const isDayOfYear = (day: string): boolean => /^\d\d-\d\d$/.test(day) && !Number.isNaN(Date.parse(`2024-${day}`))

/** Lines such as "11-01–03-31: 10:00, 14:00 / 12:00, 16:00": from day to day, out and back. The number of the first wrong line where one is none. */
export function seasonsOf(text: string): Season[] | { wrongLine: number } {
  const seasons: Season[] = []
  for (const [at, line] of lines(text).entries()) {
    const [, from = '', to = '', out = '', back = ''] = SEASON.exec(line) ?? []
    const [departures, returns] = [timesOf(out), timesOf(back)]
    if (!isDayOfYear(from) || !isDayOfYear(to) || !departures || !returns || (departures.length === 0) !== (returns.length === 0))
      return { wrongLine: at + 1 }
    seasons.push({ from, to, departures, returns })
  }
  return seasons
}
export const seasonsText = (seasons: readonly Season[]): string =>
  seasons.map(({ from, to, departures, returns }) => `${from}–${to}: ${timesText(departures)} / ${timesText(returns)}`).join('\n')

const TIDE = /^(\d{4}-\d\d-\d\d)(?:[\s:;,\t]+(.*))?$/

/** Lines such as "2026-12-01 08:10–12:00, 20:30–23:50", a day and when it may be crossed; a day alone is closed. */
export function tidesOf(text: string): Tides | { wrongLine: number } {
  const tides: Tides = {}
  for (const [at, line] of lines(text).entries()) {
    const [, day = '', rest = ''] = TIDE.exec(line) ?? []
    const spans = spansOf(rest)
    if (Number.isNaN(Date.parse(day)) || spans === null) return { wrongLine: at + 1 }
    tides[day] = spans
  }
  return tides
}
export const tidesText = (tides: Tides): string =>
  Object.entries(tides)
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([day, spans]) => `${day} ${spansText(spans)}`.trim())
    .join('\n')

export const isWrong = (read: object): read is { wrongLine: number } => 'wrongLine' in read
