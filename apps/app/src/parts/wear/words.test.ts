import type { StageDueDto } from '@evenround/contract/wear'
import { METRIC } from '@evenround/core/units'
import { type Cause, USUAL_RULE } from '@evenround/core/wear'
import { dueWith } from '../../testing/due'
import { stopWith, TODAY } from '../../testing/stop'
import { dueSentence, dueWords, evidenceText, fittedText, monthsText, namedSentence, waterOf } from './words'

const [stage] = stopWith('under-sink-3', [1]).system.stages
if (!stage) throw new Error('no stage')

/** The words of a day to change on 25 November 2026. */
const words = (more: Partial<StageDueDto>, governing: Cause = 'throughput') => dueWords(dueWith(more), governing, TODAY, METRIC)
const contract = (months: number) => ({
  setBy: 'contract' as const,
  rule: { ...USUAL_RULE, by: 'contract' as const, months, from: 'site' as const },
})

test('good: the day, its window, the reason', () => {
  expect(words({ due: '2027-05-03', windowFrom: '2027-04-12', windowTo: '2027-05-24' })).toBe(
    'Change by 3 May 2027 (12 Apr–24 May): litres.',
  )
  expect(words({ ...contract(6), due: '2026-12-30', windowFrom: '2026-12-12', windowTo: '2026-12-31' })).toBe(
    'Change by 30 Dec (12 Dec–31 Dec): contract of 6 months.',
  )
  expect(words({ setBy: 'label', labelBy: 'litres', labelAmount: 2200 })).toContain(': label of 2,200 L.')
})

test('any day: the last day, and that any from now will do', () => {
  expect(words({ state: 'any-day', due: '2027-01-09' })).toBe('Change by 9 Jan 2027; any day from now will do.')
})

test('overdue: since when, by what, and what is believed of it', () => {
  expect(words({ ...contract(6), state: 'overdue', due: '2025-06-15', ended: 0.2 })).toBe(
    'Overdue since 15 Jun 2025: contract of 6 months. Probably still good (20 in 100 that it is spent).',
  )
  expect(words({ ...contract(12), state: 'overdue', due: '2026-06-15', ended: 0.55 })).toContain(
    'contract of 1 year. More likely spent than not (55 in 100).',
  )
})

test('fifty in a hundred is as likely as not, on either side of the half', () => {
  for (const ended of [0.496, 0.5, 0.504])
    expect(words({ ...contract(12), state: 'overdue', ended })).toContain('As likely spent as not (50 in 100).')
  expect(words({ ...contract(12), state: 'overdue', ended: 0.506 })).toContain('More likely spent than not (51 in 100).')
  expect(words({ ...contract(12), state: 'overdue', ended: 0.494 })).toContain('Probably still good (49 in 100 that it is spent).')
})

test('days in what a cause is known by are written as people write them', () => {
  expect(evidenceText('fitted on 2026-02-21', TODAY)).toBe('fitted on 21 Feb')
  expect(evidenceText('fitted on 2025-02-21', TODAY)).toBe('fitted on 21 Feb 2025')
  expect(evidenceText('counter at 308 L after 168 days', TODAY)).toBe('counter at 308 L after 168 days')
})

test('spent: how likely, and why now; never a day to come', () => {
  const spent = { state: 'spent' as const, ended: 0.951 }
  expect(words({ ...spent, labelDay: '2025-06-15', labelAmount: 183 })).toBe(
    'Spent, very likely (95 in 100). Change it now: 6 months by the label were over on 15 Jun 2025.',
  )
  expect(words({ ...spent, labelDay: '2025-11-25', labelAmount: 365 })).toContain('1 year by the label was over on 25 Nov 2025.')
  expect(words({ ...spent, pastLimit: { cause: 'breakthrough', on: '2026-11-12' } })).toBe(
    'Spent, very likely (95 in 100). Change it now: chlorine after it past its limit on 12 Nov.',
  )
  expect(words({ ...spent, ended: 0.62, spentOn: '2026-11-02' })).toBe(
    'Probably spent (62 in 100). Change it now: litres, more likely over than not since 2 Nov.',
  )
  expect(words({ ...spent, ended: 0.9999 })).toContain('(99 in 100)')
})

test('what is not known is said', () => {
  expect(dueSentence({ ...stage, part: null }, TODAY, METRIC)).toBe('Nobody knows what is fitted.')
  expect(namedSentence({ ...stage, forecast: null }, TODAY, METRIC)).toBe('Sediment: its day to change is still being worked out.')
  const rated = { days: null, litres: null, milliequivalents: null, hours: null }
  const written = { partNumber: 'LT-SED-5', fittedOn: TODAY, dateKnown: true }
  expect(dueSentence({ ...stage, forecast: null, part: { ...written, rated } }, TODAY, METRIC)).toBe('Nothing rates its life.')
  expect(waterOf({ ...stage, forecast: null }, TODAY)).toEqual({ level: null, band: null, cause: null })
})

test('months are months where a label’s days are whole ones', () => {
  expect([1, 6, 12, 24, 18].map(monthsText)).toEqual(['1 month', '6 months', '1 year', '2 years', '18 months'])
  expect(words({ setBy: 'label', labelAmount: 100 })).toContain('label of 100 days')
})

test('fitted, and how long ago', () => {
  expect(fittedText(stage, TODAY)).toBe('P-1, fitted 9 May, 200 days ago')
})

test('the water stands at the life left, the band from the early to the late end', () => {
  const { level, band, cause } = waterOf(stage, TODAY)
  // 200 days gone, 54 to the median: the whole is 254; 25 and 96 days of it make the band.
  expect(level).toBe(0.2)
  expect(band?.low).toBeCloseTo(25 / 254, 9)
  expect(band?.high).toBeCloseTo(96 / 254, 9)
  expect(cause).toBe('calendar')
})

test('nothing is left of what is spent', () => {
  expect(waterOf({ ...stage, due: dueWith({ state: 'spent' }) }, TODAY)).toEqual({ level: 0, band: null, cause: 'calendar' })
})

test('a firm that counts in gallons reads gallons', () => {
  const US = { ...METRIC, volume: 'gal' as const }
  const worn = (more: Partial<StageDueDto>) => dueWords(dueWith(more), 'throughput', TODAY, US)
  expect(worn({ state: 'good' })).toMatch(/: gallons\.$/)
  // 3,000 L are 793 US gallons.
  expect(worn({ state: 'good', setBy: 'label', labelBy: 'litres', labelAmount: 3000 })).toMatch(/label of 793 gal\.$/)
})
