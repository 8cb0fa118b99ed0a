import type { Train } from '@evenround/core/train'
import type { Site } from '../../db/entities/master'
import type { RoundMarkRow } from '../../db/entities/round'
import type { MinutesBook } from '../times/minutes'
import { askedVisit } from './asked'
import { asDueStage, occurrences, type RoundStage } from './dues'
import type { EarlierVisit, Existing } from './existing'
import { dayIndex, dueVisits, type SiteContext, whyClosed, withMarks } from './visits'

// Working days of two weeks and a half, from the day after today, a Sunday.
const TODAY = '2026-11-29'
const DAYS = [
  '11-30',
  '12-01',
  '12-02',
  '12-03',
  '12-04',
  '12-07',
  '12-08',
  '12-09',
  '12-10',
  '12-11',
  '12-14',
  '12-15',
  '12-16',
  '12-17',
].map((day) => `2026-${day}`)
const TRAIN: Train = { nodes: [], pipes: [] }
const stage = (
  id: string,
  dueOn: string | null,
  more: Partial<RoundStage> & { from?: string; to?: string; soonest?: string; everyDays?: number } = {},
): RoundStage => {
  const { from, to, soonest, everyDays, ...rest } = more
  return {
    stageId: id,
    systemId: 'kitchen',
    systemName: 'Kitchen',
    train: TRAIN,
    siteId: 'site',
    position: 1,
    media: 'sediment',
    action: 'change',
    partNumber: 'BRK-SED-10',
    priceMinor: 0,
    lateWorth: 4,
    due:
      dueOn === null
        ? null
        : {
            dueOn,
            windowFrom: from ?? dueOn,
            windowTo: to ?? dueOn,
            latePerDay: 2,
            earlyPerDay: 1,
            everyDays: everyDays ?? 180,
            soonestOn: soonest ?? from ?? dueOn,
            soonerPerDay: 3,
          },
    ...rest,
  }
}
/** Eight minutes of hands a stage and four of clocks, whatever the sheet. */
const MINUTES: MinutesBook = {
  of: (_train, tasks) => ({ handsOnMin: 8 * tasks.length, waitingMin: 4, sheetMin: 8 * tasks.length, learnedFrom: 0, own: null }),
}
let made = 0
const contextOf = (stages: RoundStage[], more: Partial<SiteContext> = {}, existing: Partial<Existing> = {}): SiteContext => ({
  site: { id: 'site', name: 'Net loft', village: 'Quay', island: 'Thrawn', source: 'municipal' } as Site,
  place: 'thrawn/quay',
  driveMin: 40,
  hours: null,
  shut: [],
  stages,
  terms: { hourMinor: 4800, accessMin: 8, setupMin: 14, unevenness: 1, change: 30 },
  days: DAYS,
  today: TODAY,
  existing: {
    earlier: [],
    tied: [],
    elsewhere: new Set(),
    tasks: new Map(),
    marks: [],
    extras: [],
    extraStops: new Map(),
    set: null,
    ...existing,
  },
  year: null,
  minutes: MINUTES,
  newId: () => `new-${++made}`,
  ...more,
})
const earlier = (id: string, stageIds: string[], day: string | null, more: Partial<EarlierVisit> = {}): EarlierVisit => ({
  id,
  siteId: 'site',
  stops: [{ stopId: `stop-of-${id}`, systemId: 'kitchen' }],
  stageIds: new Set(stageIds),
  day,
  technicianId: 'tam',
  promised: false,
  ...more,
})
const mark = (kind: RoundMarkRow['kind'], day: string, more: Partial<RoundMarkRow> = {}): RoundMarkRow =>
  ({
    id: `${kind}-${day}`,
    visitId: 'v',
    kind,
    day,
    fromMin: null,
    toMin: null,
    why: '',
    madeBy: 'isla',
    madeAt: new Date(0),
    ...more,
  }) as RoundMarkRow

test('days as indices: the last working day at or before, −1 before the first, one past the end after the last', () => {
  const index = dayIndex(DAYS)
  expect([TODAY, '2026-11-30', '2026-12-05', '2026-12-06', '2026-12-07', '2026-12-17', '2026-12-24'].map(index)).toEqual([
    -1, 0, 4, 4, 5, 13, 14,
  ])
})

describe('when a stage is wanted', () => {
  test('its next change, and those after it by its interval, known the less the later they are', () => {
    const all = occurrences(stage('a', '2026-12-02', { from: '2026-12-01', to: '2026-12-04', everyDays: 30 }), '2026-11-30', '2027-02-05')
    expect(all.map(({ dueOn }) => dueOn)).toEqual(['2026-12-02', '2027-01-01', '2027-01-31'])
    expect(all[0]).toMatchObject({ windowFrom: '2026-12-01', windowTo: '2026-12-04' })
    // A fifth of thirty days either side.
    expect(all[1]).toMatchObject({ windowFrom: '2026-12-25', windowTo: '2027-01-09' })
  })
  test('after an overdue change the next is reckoned from now, and what nothing rates is wanted never', () => {
    const all = occurrences(stage('a', '2026-09-01', { everyDays: 30 }), '2026-11-30', '2027-01-15')
    expect(all.map(({ dueOn }) => dueOn)).toEqual(['2026-09-01', '2026-12-30'])
    expect(occurrences(stage('a', null), '2026-11-30', '2027-01-15')).toEqual([])
  })
  test('a day of the round stands for more than a day of wear', () => {
    const [one] = occurrences(stage('a', '2026-12-02'), '2026-11-30', '2026-12-17')
    if (!one) throw new Error('it is wanted')
    expect(asDueStage(one, dayIndex(DAYS))).toMatchObject({ dueDay: 2, latePerDay: 2.8, earlyPerDay: 1.4, workMin: 8 })
  })
})

describe('the days of a window', () => {
  const windowOf = (from: string, to: string): readonly [number, number] | undefined => {
    const [one] = occurrences(stage('a', to, { from, to }), '2026-11-30', '2026-12-17')
    return one && asDueStage(one, dayIndex(DAYS)).windowDays
  }
  // 5 and 6 December are a weekend; days 4 and 5 are the Friday before it and the Monday after.
  test('a window that begins on a weekend begins on the Monday, and one that ends on it on the Friday', () => {
    expect(windowOf('2026-12-05', '2026-12-09')).toEqual([5, 7])
    expect(windowOf('2026-12-02', '2026-12-06')).toEqual([2, 4])
  })
  test('a window of a weekend alone is the Friday before: nothing is put off past it', () => {
    expect(windowOf('2026-12-05', '2026-12-06')).toEqual([4, 4])
  })
})

describe('visits of a site', () => {
  test('what is overdue is wanted from the first day on, germs within two weeks', () => {
    const [sediment] = dueVisits(contextOf([stage('a', '2026-10-01')]))
    expect(sediment?.windowDays).toEqual([0, 13])
    const [lamp] = dueVisits(contextOf([stage('a', '2026-10-01', { media: 'uv-lamp', lateWorth: 8 })]))
    expect(lamp?.windowDays).toEqual([0, 9])
  })
  test('stages go together, each system is a stop of its own, and what goes early says what it loses', () => {
    const kitchen = stage('a', '2026-12-02', { from: '2026-11-30', to: '2026-12-11' })
    const bar = stage('b', '2026-12-04', { from: '2026-11-30', to: '2026-12-15', systemId: 'bar', systemName: 'Bar' })
    const [visit, more] = dueVisits(contextOf([kitchen, bar]))
    expect(more).toBeUndefined()
    expect(visit?.stops.map(({ systemName }) => systemName)).toEqual(['Kitchen', 'Bar'])
    // Eight to get in, and what each system's sheet takes: eight of hands, four of clocks.
    expect(visit?.serviceMin).toBe(8 + 2 * (8 + 4))
    expect(visit?.stops.reduce((sum, { workMin }) => sum + workMin, 0)).toBe(visit?.serviceMin)
    expect(visit?.stops[1]?.tasks[0]).toMatchObject({ pulledDays: 2, lostMin: 2.8 })
  })
  test('a visit keeps its name and its stop by what it does; what is seen to elsewhere is not planned twice', () => {
    const context = contextOf([stage('a', '2026-12-02', { to: '2026-12-11' })], {}, { earlier: [earlier('v', ['a', 'z'], '2026-12-03')] })
    expect(dueVisits(context)[0]).toMatchObject({ id: 'v', kind: 'stands', promisedDay: 3, stops: [{ stopId: 'stop-of-v' }] })
    expect(dueVisits(contextOf([stage('a', '2026-12-02')], {}, { elsewhere: new Set(['a']) }))).toEqual([])
  })
  test('work on the road that nothing makes due stays about its day; a day given to the customer is held', () => {
    const planned = earlier('v', ['a'], '2026-12-09')
    const [about] = dueVisits(contextOf([stage('a', '2027-06-01')], {}, { earlier: [planned] }))
    expect(about).toMatchObject({ id: 'v', windowDays: [2, 12], pinnedDay: null })
    const [promised] = dueVisits(contextOf([stage('a', '2027-06-01')], {}, { earlier: [{ ...planned, promised: true }] }))
    expect(promised).toMatchObject({ pinnedDay: 7, promised: true })
  })
  test('a place that is shut waits for its opening; one that does not open is not visited', () => {
    const due = [stage('a', '2026-12-01', { from: '2026-11-30', to: '2026-12-03' })]
    const shut = [0, 1, 2, 3, 4, 5]
    const [visit] = dueVisits(contextOf(due, { shut }))
    expect(visit?.windowDays[0]).toBe(6)
    expect(visit?.closedDays).toEqual(shut)
    expect(dueVisits(contextOf(due, { shut: DAYS.map((_, index) => index) }))).toEqual([])
  })
  test('what falls due while it is shut until after these weeks waits, and that is known', () => {
    const shut = DAYS.flatMap((_, index) => (index >= 6 ? [index] : []))
    const early = contextOf([stage('a', '2026-12-02')], { shut })
    expect(whyClosed(early, dueVisits(early))).toBeNull()
    const later = contextOf([stage('a', '2026-12-02'), stage('b', '2026-12-14')], { shut })
    const visits = dueVisits(later)
    expect(visits.flatMap(({ stops }) => stops.flatMap(({ tasks }) => tasks.map(({ stageId }) => stageId)))).toEqual(['a'])
    expect(whyClosed(later, visits)).toMatch(/closed when some of its parts are due, until after these weeks/)
    const elsewhere = contextOf([stage('b', '2026-12-14')], { shut }, { elsewhere: new Set(['b']) })
    expect(whyClosed(elsewhere, dueVisits(elsewhere))).toBeNull()
  })
  test('by a plan of the year: within a week of its week, never outside of the window; what it has later waits, what it has sooner comes', () => {
    const wide = stage('a', '2026-12-09', { from: '2026-11-20', to: '2026-12-30' })
    const year = (weeks: string[]) => ({ year: { id: 'plan', weeksOf: new Map([['a', weeks]]), loads: new Map(), filled: 0.5 } })
    const windows = (due: RoundStage, weeks: string[]) => dueVisits(contextOf([due], year(weeks))).map(({ windowDays }) => windowDays)
    // The week of 7 December, a week before to a week after: from the first day, 30 November, to the last, 17 December.
    expect(windows(wide, ['2026-12-07'])).toEqual([[0, DAYS.length - 1]])
    // The week of 30 November: to 13 December, whose last working day is the 11th.
    expect(windows(wide, ['2026-11-30'])).toEqual([[0, DAYS.indexOf('2026-12-11')]])
    // Its own window ends sooner.
    expect(windows({ ...wide, due: wide.due && { ...wide.due, windowTo: '2026-12-10' } }, ['2026-12-07'])).toEqual([
      [0, DAYS.indexOf('2026-12-10')],
    ])
    // The year has it after these days.
    expect(windows(wide, ['2026-12-21'])).toEqual([])
    // A week the window does not reach is none of its weeks.
    expect(windows(stage('a', '2026-12-09', { from: '2026-12-08', to: '2026-12-10' }), ['2027-02-01'])).toHaveLength(1)
    // Due after these days, and in them by the year; without a plan it is not.
    const late = stage('a', '2026-12-23', { from: '2026-12-01', to: '2026-12-30' })
    expect(windows(late, ['2026-12-07'])).toHaveLength(1)
    expect(windows(late, [])).toEqual([])
    // What comes round twice in these days comes as often as the year has it, however its dues would fall.
    const often = stage('a', '2026-12-02', { from: '2026-12-01', to: '2026-12-04', everyDays: 28 })
    expect(windows(often, ['2026-11-30'])).toHaveLength(1)
    expect(
      windows(stage('a', '2026-12-02', { from: '2026-12-01', to: '2026-12-04', everyDays: 12 }), ['2026-11-30', '2026-12-14']),
    ).toEqual([
      [DAYS.indexOf('2026-12-01'), DAYS.indexOf('2026-12-04')],
      [DAYS.indexOf('2026-12-07'), DAYS.length - 1],
    ])
    // Before its window only as far as some of its time may be given up for the year's sake, at what that throws away: 3 a day, 4.2 a working day.
    const sooner = stage('a', '2026-12-16', { from: '2026-12-15', to: '2026-12-18', soonest: '2026-12-02' })
    expect(windows(sooner, ['2026-12-07'])).toEqual([[DAYS.indexOf('2026-12-02'), DAYS.length - 1]])
    expect(dueVisits(contextOf([sooner], year(['2026-12-07'])))[0]?.earlyPerDay).toBeCloseTo(4.2, 9)
    expect(windows(sooner, [])).toEqual([[DAYS.indexOf('2026-12-15'), DAYS.length - 1]])
    // What is overdue is not put off for any plan.
    expect(windows(stage('a', '2026-10-01'), ['2027-03-01'])).toHaveLength(1)
  })
  test('wells ask for the skill', () => {
    const context = contextOf([stage('a', '2026-12-02')])
    const [visit] = dueVisits({ ...context, site: { ...context.site, source: 'drilled-well' } as Site })
    expect(visit?.skills).toEqual(['wells'])
  })
})

describe('what people decided', () => {
  const visit = () => {
    const [one] = dueVisits(
      contextOf([stage('a', '2026-12-02', { from: '2026-12-01', to: '2026-12-08' })], {}, { earlier: [earlier('v', ['a'], null)] }),
    )
    if (!one) throw new Error('it is due')
    return one
  }
  test('a pin holds a day, also beyond the window; the last one counts', () => {
    const held = withMarks(visit(), [mark('pin', '2026-12-02'), mark('pin', '2026-12-15')], DAYS)
    expect(held).toMatchObject({ pinnedDay: 11, promised: false })
    expect(held.windowDays[1]).toBe(11)
  })
  test('a promise has a window: its service may run past it, its beginning may not', () => {
    const { open, promise, promised, serviceMin } = withMarks(visit(), [mark('promise', '2026-12-02', { fromMin: 600, toMin: 660 })], DAYS)
    expect([promised, promise]).toEqual([true, [600, 660]])
    expect(open).toEqual([[600, 660 + serviceMin]])
  })
  test('forbidden days are closed, and a part that is not there moves the window', () => {
    expect(withMarks(visit(), [mark('forbid', '2026-12-02'), mark('forbid', '2026-12-03')], DAYS).closedDays).toEqual([2, 3])
    const { windowDays } = withMarks(visit(), [mark('not-before', '2026-12-11')], DAYS)
    expect(windowDays[0]).toBe(9)
    expect(windowDays[1]).toBeGreaterThan(9)
  })
  test('marks of other visits and of days that are over change nothing', () => {
    expect(withMarks(visit(), [mark('pin', '2026-12-02', { visitId: 'other' }), mark('pin', '2026-11-01')], DAYS)).toEqual(visit())
  })
})

describe('a first visit', () => {
  const first = (toDay: string, isFirst = true) => ({
    id: 'kitchen',
    siteId: 'site',
    systemId: 'kitchen',
    workMin: 45,
    fromDay: '2026-11-30',
    toDay,
    tasks: [],
    isFirst,
  })
  const inWeek = (week: string): SiteContext =>
    contextOf([], { year: { id: 'year', weeksOf: new Map([['kitchen', [week]]]), loads: new Map(), filled: 0.5 } })
  const windowOf = (context: SiteContext, toDay: string, isFirst = true) => askedVisit(context, first(toDay, isFirst), null)?.windowDays

  test('any day of its weeks, no further than the days there are', () => {
    expect(windowOf(contextOf([]), '2026-12-10')).toEqual([0, 8])
    expect(windowOf(contextOf([]), '2027-01-10')).toEqual([0, 13])
  })
  test('about the week the year has it in; after these days it is left to later; who asked is not put off for any plan', () => {
    // The Monday is 14 December: a week before it, and the week itself with a week after.
    expect(windowOf(inWeek('2026-12-14'), '2027-01-10')).toEqual([5, 13])
    expect(windowOf(inWeek('2026-12-28'), '2027-01-10')).toBeUndefined()
    expect(windowOf(inWeek('2026-12-14'), '2026-12-10', false)).toEqual([0, 8])
  })
  test('a week that its days do not touch says nothing', () => {
    expect(windowOf(inWeek('2027-03-01'), '2026-12-10')).toEqual([0, 8])
  })
})
