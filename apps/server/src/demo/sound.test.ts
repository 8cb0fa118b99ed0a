import { inputOfSet } from '@evenround/contract/round-set'
import { planRound } from '@evenround/core/round'
import { v7 as uuidv7 } from 'uuid'
import { dataSource } from '../db/data-source'
import { firmScopes } from '../db/scope'
import { openDraft } from '../features/round/draft'
import { roundState } from '../features/round/page'
import { islandTravel } from '../features/travel/islands'
import { peek, type TestDatabase, testDatabase } from '../testing/database'
import { dayIn } from '../time/zone'
import { demoId } from './ids'
import { DEMO_FIRM_ID, loadDemo } from './load'
import { publishDemoRound } from './planned'
import { DEMO_FIRM } from './world'

/** Each weekday, month ends, a leap day, both clock changes of the firm's zone, the hostel's closed months, the days around Christmas; at different hours. */
const DATES = [
  '2026-11-23T08:10Z',
  '2026-11-25T23:30Z',
  '2026-12-25T06:20Z',
  '2026-12-31T22:50Z',
  '2027-01-31T10:00Z',
  '2027-03-28T00:30Z',
  '2027-07-31T10:00Z',
  '2027-10-31T00:30Z',
  '2028-02-29T10:00Z',
]

const minutes = (clock: string): number => {
  const [hours, rest] = clock.split(':').map(Number) as [number, number]
  return hours * 60 + rest
}

interface StopRow {
  name: string
  technician: string
  day: string
  order_no: number
  leave_min: number
  arrive_min: number
  work_min: number
  travel_min: number
  ferry_at: string | null
  open: [number, number][] | null
  closed_weekdays: number[] | null
  job_id: string | null
}

async function stopsOf(database: TestDatabase): Promise<StopRow[]> {
  return peek<StopRow>(
    database,
    `select site.name, person.name as technician, stop.day, order_no, leave_min, arrive_min, work_min, travel_min, ferry_at, h.open, h.closed_weekdays, job_id
     from stop join site on site.id = stop.site_id join person on person.id = stop.technician_id left join site_hours h on h.id = site.id
     order by person.name, stop.day, order_no`,
  )
}

/** What a day on the road may not do; each broken law as a line that says where. */
function brokenOnTheRoad(stops: readonly StopRow[], today: string): string[] {
  return stops.flatMap((stop, index) => {
    const at = `${stop.name} ${stop.day}`
    const before = stops[index - 1]
    const sameDay = before && before.technician === stop.technician && before.day === stop.day
    const broken: string[] = []
    if (stop.ferry_at && !(stop.leave_min <= minutes(stop.ferry_at) && minutes(stop.ferry_at) < stop.arrive_min))
      broken.push(`${at}: the ferry at ${stop.ferry_at} sails outside of the drive ${stop.leave_min} to ${stop.arrive_min}`)
    if (stop.leave_min + stop.travel_min > stop.arrive_min) broken.push(`${at}: arrives before it can`)
    if (sameDay && before.arrive_min + before.work_min > stop.leave_min) broken.push(`${at}: leaves before ${before.name} is done`)
    if (stop.day < today && stop.job_id === null) broken.push(`${at}: is over`)
    if (stop.day > today && stop.job_id === null && [6, 7].includes(new Date(`${stop.day}T12:00Z`).getUTCDay() || 7))
      broken.push(`${at}: a weekend`)
    if (stop.day > today && stop.closed_weekdays?.includes(new Date(`${stop.day}T12:00Z`).getUTCDay() || 7))
      broken.push(`${at}: shut that day`)
    const ends = stop.arrive_min + stop.work_min
    if (stop.open?.length && !stop.open.some(([from, to]) => from <= stop.arrive_min && ends <= to))
      broken.push(`${at}: shut at ${stop.arrive_min}`)
    if (stop.job_id === null && ends > 17 * 60) broken.push(`${at}: ends at ${ends}`)
    return broken
  })
}

// Side by side: a demo being written waits for its database a third of the time.
test.concurrent.each(DATES)('the demo of %s is sound', async (instant) => {
  const now = new Date(instant)
  const database = await testDatabase('empty')
  // Five demos and their plans are computed in this one process: for a while it may answer nobody.
  const source = dataSource({ url: database.appUrl, poolSize: 4, connectSeconds: 200 })
  await source.initialize()
  try {
    await loadDemo(source, now, uuidv7)
    const count = async (from: string, params: unknown[] = []): Promise<number> =>
      Number((await peek<{ n: string }>(database, `select count(*) as n from ${from}`, params))[0]?.n)
    const inFirm = firmScopes(source)
    const { set, page } = await inFirm(DEMO_FIRM_ID, async (scope) => {
      const draft = await openDraft(
        scope,
        { travel: islandTravel, now, newId: uuidv7 },
        dayIn(DEMO_FIRM.timeZone, now),
        demoId('person', 'isla'),
      )
      return { set: draft.set, page: await roundState(scope, draft, DEMO_FIRM.timeZone) }
    })
    const { today } = set

    // The road.
    const stops = await stopsOf(database)
    expect(brokenOnTheRoad(stops, today)).toEqual([])
    expect(stops.filter(({ technician, day }) => technician === 'Tam Orrin' && day === today)).toHaveLength(5)
    expect(stops.filter(({ ferry_at }) => ferry_at !== null).length).toBeGreaterThan(2)
    expect(page.flags).toEqual([])
    expect(stops.filter(({ name }) => name === 'Youth hostel')).toEqual([])

    // The past is over, and nothing is published in it.
    expect(await count('fact_receipt where arrived_at > $1', [now])).toBe(0)
    expect(await count('round_publication')).toBe(0)
    expect(set.days.every((day) => day > today)).toBe(true)

    // Something of everything a day brings.
    expect(await count('stage_forecast where due_on <= $1::date + 7', [today])).toBeGreaterThan(10)
    expect(await count(`disinfection where stand = 'contact'`)).toBe(1)
    expect(await count(`disinfection where next_act = 'sample'`)).toBeGreaterThan(0)
    expect(await count('fact_hold_begun where until is null')).toBeGreaterThan(0)

    // Every window has a day, or what is left out says why.
    expect(set.leftOut.every(({ why }) => why.length > 0)).toBe(true)
    for (const { windowDays, siteName } of set.visits)
      expect([siteName, windowDays[0] <= windowDays[1], windowDays[0] >= 0]).toEqual([siteName, true, true])
    const names = new Map(set.visits.map(({ id, siteName, windowDays, closedDays }) => [id, { siteName, windowDays, closedDays }]))
    const { unplanned } = planRound(inputOfSet(set), { iterations: 60, from: page.draft.plan })
    expect(unplanned.map(({ visit, why }) => ({ why, ...names.get(visit) }))).toEqual([])
    if (instant !== DATES[0]) return

    // As the start shows it: planned, published, everything on a day, nothing broken on the road, today as it was.
    await publishDemoRound(source, now, uuidv7, async ({ input, from }) => {
      const { days, cost } = planRound(input, { iterations: 60, ...(from ? { from } : {}) })
      return { days, cost: cost.total }
    })
    expect(await count('round_publication')).toBe(1)
    expect(await count(`round_draft where plan->'unplanned' = '[]'`)).toBe(1)
    const published = await stopsOf(database)
    expect(brokenOnTheRoad(published, today)).toEqual([])
    expect(published.length).toBeGreaterThan(stops.length + 50)
    expect(published.filter(({ day }) => day === today)).toEqual(stops.filter(({ day }) => day === today))
  } finally {
    await source.destroy()
    await database.drop()
  }
})
