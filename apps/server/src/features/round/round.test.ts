import { stateAfter } from '@evenround/contract/draft-change'
import { inputOfSet } from '@evenround/contract/round-set'
import { sumsOf, yearOf } from '@evenround/contract/round-sums'
import type { TodaySpotDto } from '@evenround/contract/rounds'
import {
  type DraftChange,
  type RoundPage,
  type RoundState,
  type RoundWeek,
  roundPageSchema,
  roundWeekSchema,
} from '@evenround/contract/rounds'
import { legsOf, planRound, roundCost } from '@evenround/core/round'
import { weekStart } from '@evenround/core/units'
import ICAL from 'ical.js'
import { v7 as uuidv7 } from 'uuid'
import { demoId } from '../../demo/ids'
import { peek } from '../../testing/database'
import { batch, begun } from '../../testing/facts'
import { freshRoundOf, good, roundOf, withSet } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
let tam: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(() => world.close())

const look = (who = isla): Promise<RoundPage> => roundOf(who)
const TAM = demoId('person', 'tam')
/** Where a plan has a visit, as a move names it. */
function placeOf({ draft }: RoundPage, visit: string): { technician: string; day: number } | null {
  const line = draft.plan.days.find(({ stops }) => stops.some((stop) => stop.visit === visit))
  return line ? { technician: line.technician, day: line.day } : null
}
/** A plan of the whole set, put in the draft's stead. */
async function planned(): Promise<RoundPage> {
  const page = await look()
  const { days } = planRound(inputOfSet(page.set), { iterations: 60, from: page.draft.plan })
  const answer = await isla.ask('PUT', '/api/round/draft', { version: page.draft.version, setId: page.set.id, days })
  if (answer.status !== 200) throw new Error(answer.text)
  return look()
}

describe('what is to be planned', () => {
  test('every stage due in these weeks is in a visit of its site, in its window; what stands on the road keeps its name and day', async () => {
    const page = await look()
    expect(roundPageSchema.safeParse(page).error).toBeUndefined()
    const { set } = page
    // Three days of each week are somebody’s.
    expect(set.days.length).toBeGreaterThanOrEqual(39)
    expect(set.days.every((day) => day > set.today)).toBe(true)
    const inSet = new Set(set.visits.flatMap(({ stops }) => stops.flatMap(({ tasks }) => tasks.map(({ stageId }) => stageId))))
    const due = await peek<{ stage_id: string; site_id: string }>(
      world.database,
      `select f.stage_id, f.site_id from stage_forecast f where f.due_on <= $1 and not exists
       (select 1 from stop_task t join stop s on s.id = t.stop_id where t.stage_id = f.stage_id and s.day <= $2)`,
      [set.days.at(-1), set.today],
    )
    const shut = new Set(set.leftOut.map(({ siteId }) => siteId))
    const missing = due.filter(({ stage_id, site_id }) => !inSet.has(stage_id) && !shut.has(site_id))
    expect(missing).toEqual([])
    for (const visit of set.visits) expect(visit.windowDays[0]).toBeLessThanOrEqual(visit.windowDays[1])
    const roped = set.visits.find(({ siteName, kind }) => siteName === 'Rope walk café' && kind === 'stands')
    expect(roped?.stops[0]?.stopId).toBe(demoId('stop', 'rope-walk', 1))
    expect(roped?.promised).toBe(true)
  })
  test('places without a known village, and sites shut all the time, are named with the reason', async () => {
    const { set } = await look()
    expect(set.leftOut.every(({ why }) => why.length > 0)).toBe(true)
    expect(set.visits.filter(({ skills }) => skills.includes('wells')).every(({ place }) => place.length > 0)).toBe(true)
  })
  test('travel is kept in the database and the ferry is in it by the hour', async () => {
    const { set } = await look()
    const [row] = await peek<{ n: string }>(world.database, 'select count(*) as n from travel_matrix')
    expect(Number(row?.n)).toBe(1)
    const [town, slip] = ['great-skellan/skellan-town', 'murrow-holm/slip'].map((id) => set.travel.places.indexOf(id)) as [number, number]
    const minutes = new Set(set.travel.travelByHour.map(({ travelMin }) => travelMin[town]?.[slip]))
    expect(minutes.size).toBeGreaterThan(5)
    expect(set.travel.sails.some(({ sailsMin }) => (sailsMin[town]?.[slip] ?? -1) > 0)).toBe(true)
  })
})

describe('the plan in the making', () => {
  test('a plan that breaks something is refused with the rule, one on an old version with what stands', async () => {
    const page = await look()
    const plan = planRound(inputOfSet(page.set), { iterations: 20 })
    const late = plan.days.map((line, index) =>
      index === 0 ? { ...line, stops: line.stops.map((stop) => ({ ...stop, startMin: 60 })) } : line,
    )
    const refused = await isla.ask('PUT', '/api/round/draft', { version: page.draft.version, setId: page.set.id, days: late })
    expect([refused.status, refused.body.error.code]).toEqual([400, 'BAD_INPUT'])
    const old = await isla.ask('PUT', '/api/round/draft', { version: page.draft.version + 5, setId: page.set.id, days: plan.days })
    expect([old.status, old.body.error.code]).toEqual([409, 'STALE_VERSION'])
    expect((await look()).draft.version).toBe(page.draft.version)
  })
  test('the whole quarter planned: nothing broken, and it costs what the core says', async () => {
    const { set, draft } = await planned()
    const { cost, broken } = roundCost(inputOfSet(set), draft.plan)
    expect(broken).toEqual([])
    expect(draft.plan.cost.total).toBeCloseTo(cost.total, 6)
    expect(draft.plan.unplanned).toEqual([])
  })
  test('two people’s moves both stand; a visit that another moved is refused by name', async () => {
    const page = await look()
    const free = page.set.visits.filter(
      ({ id, pinnedDay, windowDays, skills }) =>
        pinnedDay === null && windowDays[1] > windowDays[0] && skills.length === 0 && placeOf(page, id),
    )
    const [one, other] = free as [(typeof free)[number], (typeof free)[number]]
    const move = (visit: typeof one) => ({ setId: page.set.id, visitId: visit.id, from: placeOf(page, visit.id), to: null })
    const first = await isla.ask('POST', '/api/round/moves', move(one))
    const second = await isla.ask('POST', '/api/round/moves', move(other))
    expect([first.status, second.status]).toEqual([200, 200])
    // What a move answers with is what it changed: put into the plan before it, it is the plan as it stands.
    const change: DraftChange = second.body
    expect(change.days.length).toBeLessThanOrEqual(1)
    const { set: _, ...before } = page
    const once = stateAfter({ ...before, setId: page.set.id }, first.body)
    expect(once && stateAfter(once, change)?.draft).toEqual((await look()).draft)
    const after = await look()
    expect([placeOf(after, one.id), placeOf(after, other.id)]).toEqual([null, null])
    const again = await isla.ask('POST', '/api/round/moves', move(one))
    expect([again.status, again.body.error.code]).toEqual([409, 'CONFLICT'])
    expect(again.body.error.message).toContain(one.siteName)
    // And back to a day of its window.
    const back = placeOf(page, one.id)
    const home = await isla.ask('POST', '/api/round/moves', { setId: page.set.id, visitId: one.id, from: null, to: { ...back, at: 0 } })
    expect(home.status).toBe(200)
    expect(placeOf(await look(), one.id)).toEqual(back)
  })
  test('a technician looks at the road as it stands, and moves nothing', async () => {
    const page = await look()
    const seen = await look(tam)
    const onRoad = new Set(seen.published.map(({ visit }) => visit))
    for (const { stops } of seen.draft.plan.days) for (const { visit } of stops) expect(onRoad).toContain(visit)
    const [visit] = page.set.visits
    for (const [method, path, input] of [
      ['POST', '/api/round/moves', { setId: page.set.id, visitId: visit?.id, from: null, to: null }],
      ['PUT', '/api/round/draft', { version: page.draft.version, setId: page.set.id, days: [] }],
      ['POST', '/api/round/publications', { version: page.draft.version }],
      ['POST', '/api/round/marks', { id: uuidv7(), visitId: visit?.id, kind: 'pin', day: page.set.days[0] }],
    ] as const)
      expect((await tam.ask(method, path, input)).body.error.code).toBe('NO_RIGHT')
  })
})

test('one week of it says what the whole comes to, and brings only its own visits', async () => {
  const page = await planned()
  const [line] = page.draft.plan.days.filter(({ stops }) => stops.length > 0).slice(-1)
  const monday = weekStart(page.set.days[line?.day ?? 0] as string)
  const week: RoundWeek = await good(isla.ask('GET', `/api/round/week?week=${monday}`))
  expect(roundWeekSchema.safeParse(week).error).toBeUndefined()
  const inWeek = ({ day }: { day: number }): boolean => weekStart(page.set.days[day] as string) === monday
  expect(week.draft.plan.days).toEqual(page.draft.plan.days.filter(inWeek))
  const ids = new Set(week.draft.plan.days.flatMap(({ stops }) => stops.map(({ visit }) => visit)))
  expect(week.set.visits).toEqual(page.set.visits.filter(({ id }) => ids.has(id)))
  expect(week.set.visits.length).toBeLessThan(page.set.visits.length)
  // Between its own places the drives are the whole round's.
  const bases = page.set.technicians.map(({ base }) => base)
  expect(new Set(week.set.travel.places)).toEqual(new Set([...bases, ...week.set.visits.map(({ place }) => place)]))
  expect(week.draft.plan.days.map(legsOf(inputOfSet(week.set)))).toEqual(week.draft.plan.days.map(legsOf(inputOfSet(page.set))))
  for (const whose of ['all', TAM]) {
    expect(week.sums[whose]).toEqual(sumsOf(page.set, page.draft.plan, whose))
    expect(week.year[whose]).toEqual(yearOf(page.set, page.draft.plan, whose))
  }
  expect((await good<RoundWeek>(isla.ask('GET', '/api/round/week'))).week).toBe(weekStart(page.set.days[0] as string))
  expect((await isla.ask('GET', '/api/round/week?week=monday')).status).toBe(400)
})

describe('what people decide', () => {
  test('a pin holds its day through planning again, a forbidden day is none, and letting go lets go', async () => {
    const page = await planned()
    const visit = page.set.visits.find(
      ({ id, pinnedDay, windowDays, closedDays, kind }) =>
        pinnedDay === null && kind === 'due' && windowDays[1] - windowDays[0] > 4 && closedDays.length === 0 && placeOf(page, id),
    )
    if (!visit) throw new Error('the demo has no visit to pin')
    const here = placeOf(page, visit.id) as { day: number }
    const day = page.set.days[here.day]
    const pin = uuidv7()
    const pinned = await withSet(isla, await good(isla.ask('POST', '/api/round/marks', { id: pin, visitId: visit.id, kind: 'pin', day })))
    expect(pinned.set.visits.find(({ id }) => id === visit.id)?.pinnedDay).toBe(here.day)
    const again = await planned()
    expect(placeOf(again, visit.id)?.day).toBe(here.day)
    const free = await withSet(isla, await good(isla.ask('DELETE', `/api/round/marks/${pin}`)))
    expect(free.set.visits.find(({ id }) => id === visit.id)?.pinnedDay).toBeNull()
    await isla.ask('POST', '/api/round/marks', { id: uuidv7(), visitId: visit.id, kind: 'forbid', day })
    const elsewhere = await planned()
    expect(placeOf(elsewhere, visit.id)?.day).not.toBe(here.day)
  })
  test('a promise has the customer’s window: whoever comes begins within it', async () => {
    const page = await planned()
    const visit = page.set.visits.find(
      ({ id, pinnedDay, kind, open, island }) =>
        pinnedDay === null && kind === 'due' && open === null && island === 'Great Skellan' && placeOf(page, id),
    )
    if (!visit) throw new Error('the demo has no visit to promise')
    const day = page.set.days[placeOf(page, visit.id)?.day ?? 0]
    const mark = { id: uuidv7(), visitId: visit.id, kind: 'promise', day, window: [600, 660], why: 'asked for ten to eleven' }
    expect((await isla.ask('POST', '/api/round/marks', mark)).status).toBe(200)
    const after = await planned()
    const stop = after.draft.plan.days.flatMap(({ stops }) => stops).find((one) => one.visit === visit.id)
    expect(stop?.startMin).toBeGreaterThanOrEqual(600)
    expect(stop?.startMin).toBeLessThanOrEqual(660)
    const bad = await isla.ask('POST', '/api/round/marks', { ...mark, id: uuidv7(), window: [700, 600] })
    expect(bad.body.error.fields[0].path).toBe('window[1]')
  })
  test('a sick day takes the day from one and leaves the rest where it stands', async () => {
    const page = await planned()
    const line = page.draft.plan.days.find(({ technician, stops }) => technician === TAM && stops.length > 0)
    const day = page.set.days[line?.day ?? 0] as string
    const sick = { id: uuidv7(), personId: TAM, fromDay: day, toDay: day, why: 'fever', source: 'sick' }
    expect((await tam.ask('POST', '/api/times/days-off', sick)).status).toBe(200)
    const fresh = await freshRoundOf(isla)
    // Nothing else is touched: the same days, and nobody else's visit without one.
    expect(fresh.set.days).toEqual(page.set.days)
    const off = fresh.draft.plan.days.filter(({ technician, day: at }) => technician === TAM && fresh.set.days[at] === day)
    expect(off).toEqual([])
    const before = page.draft.plan.days.filter(({ technician, day: at }) => technician !== TAM || page.set.days[at] !== day)
    for (const { stops } of before) for (const { visit } of stops) expect(placeOf(fresh, visit)).not.toBeNull()
    await isla.ask('DELETE', `/api/times/days-off/${sick.id}`)
  })
  test('somebody called: a visit is asked for, and belongs to the set with its days', async () => {
    const { set } = await look()
    const extra = {
      id: uuidv7(),
      systemId: demoId('system', 'net-loft'),
      workMin: 40,
      fromDay: set.days[0],
      toDay: set.days[3],
      why: 'no water at the tap',
      tasks: [],
    }
    const page = await withSet(isla, await good(isla.ask('POST', '/api/round/extras', extra)))
    const visit = page.set.visits.find(({ id }) => id === extra.id)
    expect(visit).toMatchObject({ kind: 'extra', siteName: 'Net loft cottage', windowDays: [0, 3], serviceMin: 40 })
  })
})

test('what cannot wait goes into today: its places with their prices, and the hours of what follows moved', async () => {
  const wanted = { systemId: demoId('system', 'lighthouse'), workMin: 30 }
  const spots = (await good(isla.ask('POST', '/api/round/today/spots', wanted))).spots as TodaySpotDto[]
  expect(spots.length).toBeGreaterThan(0)
  expect(spots.map(({ costMin }) => costMin)).toEqual(spots.map(({ costMin }) => costMin).sort((a, b) => a - b))
  for (const { homeMin, extraDriveMin } of spots) {
    expect(homeMin).toBeLessThan(1440)
    expect(extraDriveMin).toBeGreaterThanOrEqual(0)
  }
  const [best] = spots as [TodaySpotDto]
  const put = { ...wanted, id: uuidv7(), technicianId: best.technicianId, at: best.at, why: 'no water', tasks: [] }
  const odd = await isla.ask('POST', '/api/round/today', { ...put, id: uuidv7(), tasks: [{ stageId: uuidv7(), action: 'change' }] })
  expect(odd).toMatchObject({ status: 400, body: { error: { fields: [{ path: 'tasks[0].stageId' }] } } })
  await good(isla.ask('POST', '/api/round/today', put))
  await good(isla.ask('POST', '/api/round/today', put))
  const stops = await peek<{ id: string; order_no: number; arrive_min: number; leave_min: number; work_min: number }>(
    world.database,
    'select id, order_no, arrive_min, leave_min, work_min from stop where technician_id = $1 and day = (select day from stop where id = $2) order by order_no',
    [best.technicianId, put.id],
  )
  expect(stops.filter(({ id }) => id === put.id)).toHaveLength(1)
  expect(new Set(stops.map(({ order_no }) => order_no)).size).toBe(stops.length)
  stops.slice(1).forEach(({ leave_min }, index) => {
    const before = stops[index] as (typeof stops)[number]
    expect(leave_min).toBeGreaterThanOrEqual(before.arrive_min + before.work_min)
  })
  expect((await tam.ask('POST', '/api/round/today/spots', wanted)).status).toBe(403)
  await peek(world.database, 'delete from stop where id = $1', [put.id])
})

test('a stop of today is put off to its technician’s next working day, and back; what is promised or begun is not', async () => {
  const { day, stops } = (await tam.ask('GET', '/api/today')).body
  const of = (name: string): string => stops.find(({ site }: { site: { name: string } }) => site.name === name).id
  const off = await tam.ask('POST', `/api/stops/${of('Chandlery flat')}/put-off`, { day: null })
  expect(off.body.day > day).toBe(true)
  // Tuesdays and Thursdays are Tam's.
  expect([2, 4]).toContain(new Date(`${off.body.day}T12:00:00Z`).getUTCDay())
  expect((await tam.ask('GET', '/api/today')).body.stops).toHaveLength(4)
  expect((await tam.ask('POST', `/api/stops/${of('Chandlery flat')}/put-off`, { day })).body.day).toBe(day)
  expect((await tam.ask('GET', '/api/today')).body.stops.at(-1).site.name).toBe('Chandlery flat')
  const promised = await tam.ask('POST', `/api/stops/${of('Dr Hale’s dental surgery')}/put-off`, { day: null })
  expect([promised.status, promised.body.error.code]).toEqual([409, 'CONFLICT'])
  const wren = await world.signIn('wren@fennick.example')
  expect((await wren.ask('POST', `/api/stops/${of('Net loft cottage')}/put-off`, { day: null })).body.error.code).toBe('NO_RIGHT')
})

describe('publishing', () => {
  test('numbered, on the road, in open formats; what changed is told; what was begun stays', async () => {
    const page = await planned()
    const { body: first } = await isla.ask('POST', '/api/round/publications', { version: page.draft.version })
    expect(first.number).toBe(1)
    const after = await look()
    const road = await peek<{ day: string; technician_id: string; visit_key: string; publication: number }>(
      world.database,
      'select day, technician_id, visit_key, publication from stop where publication = 1',
    )
    for (const { technician, day, stops } of after.draft.plan.days)
      for (const { visit } of stops)
        expect(road).toContainEqual(expect.objectContaining({ day: after.set.days[day], technician_id: technician, visit_key: visit }))
    // Today is nobody's to move.
    expect((await tam.ask('GET', '/api/today')).body.stops).toHaveLength(5)
    expect((await tam.ask('GET', '/api/today')).body.publication).toMatchObject({ number: 1, changes: [] })

    const csv = await isla.ask('GET', '/api/round.csv')
    expect(csv.text.split('\r\n')[0]).toContain('day,order,technician')
    const geo = JSON.parse((await isla.ask('GET', '/api/round.geojson')).text)
    expect(geo.features.some((one: { geometry: { type: string } }) => one.geometry.type === 'LineString')).toBe(true)
    const file = await tam.ask('GET', '/api/round.ics')
    const calendar = new ICAL.Component(ICAL.parse(file.text) as never)
    const events = calendar.getAllSubcomponents('vevent').map((one) => new ICAL.Event(one))
    const own = road.filter(({ technician_id }) => technician_id === TAM)
    expect(events.length).toBeGreaterThanOrEqual(own.length)
    expect(file.text).not.toContain('key under')

    // A stop somebody has begun is left where it is by the next publication.
    const mine = await peek<{ id: string; site_id: string; system_id: string; day: string; visit_key: string }>(
      world.database,
      `select id, site_id, system_id, day, visit_key from stop where publication = 1 and technician_id = $1 and job_id is null order by day, order_no limit 2`,
      [TAM],
    )
    const [started, other] = mine as [(typeof mine)[number], (typeof mine)[number]]
    const fact = begun({ siteId: started.site_id, systemId: started.system_id, visitId: uuidv7() }, { stopId: started.id })
    expect((await tam.ask('POST', '/api/facts', batch(fact))).status).toBe(200)
    const moved = await look()
    for (const visit of [started.visit_key, other.visit_key])
      await isla.ask('POST', '/api/round/moves', { setId: moved.set.id, visitId: visit, from: placeOf(moved, visit), to: null })
    const now = await look()
    const { body: second } = await isla.ask('POST', '/api/round/publications', { version: now.draft.version })
    expect(second.number).toBe(2)
    const [kept] = await peek<{ day: string }>(world.database, 'select day from stop where id = $1', [started.id])
    expect(kept?.day).toBe(started.day)
    expect(await peek(world.database, 'select 1 from stop where id = $1', [other.id])).toEqual([])
    const { changes } = (await isla.ask('GET', '/api/round/publications/2/changes')).body
    expect(changes.map(({ visitId }: { visitId: string }) => visitId)).toContain(other.visit_key)
    const news = (await tam.ask('GET', '/api/today')).body.publication
    expect(news.number).toBe(2)
    expect(news.changes.length).toBeGreaterThan(0)
    await expect(peek(world.database, 'update round_publication set number = 9')).rejects.toThrow()
    const stale = await isla.ask('POST', '/api/round/publications', { version: now.draft.version - 1 })
    expect(stale.body.error.code).toBe('STALE_VERSION')
  })
  test('a calendar’s secret address needs no sign-in, ends when another is made, and a guess finds nothing', async () => {
    const read = async (path: string) => world.app.request(path)
    const { path } = (await tam.ask('POST', '/api/feed')).body
    const answer = await read(path)
    expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/calendar; charset=utf-8'])
    const text = await answer.text()
    expect(text).toContain('BEGIN:VEVENT')
    expect(text).not.toContain('Back door')
    const { path: next } = (await tam.ask('POST', '/api/feed')).body
    expect([(await read(path)).status, (await read(next)).status]).toEqual([404, 200])
    await tam.ask('DELETE', '/api/feed')
    expect([(await read(next)).status, (await read('/api/feeds/abc.ics')).status]).toEqual([404, 404])
  })
})

test('the day after, what is to be planned is looked at anew, the plan is carried over, and sets nobody refers to are gone', async () => {
  const before = await planned()
  await isla.ask('POST', '/api/round/fresh')
  world.clock.now = new Date(world.clock.now.getTime() + 50 * 3_600_000)
  const after = await look()
  expect(after.set.today > before.set.today).toBe(true)
  expect(after.set.days.every((day) => day > after.set.today)).toBe(true)
  const dateOf = (page: RoundPage, visit: string): string | undefined => page.set.days[placeOf(page, visit)?.day ?? -1]
  const kept = before.set.visits.filter(
    ({ id }) => (dateOf(before, id) ?? '') > after.set.today && after.set.visits.some((one) => one.id === id),
  )
  expect(kept.length).toBeGreaterThan(20)
  const moved = kept.filter(({ id }) => dateOf(after, id) !== undefined && dateOf(after, id) !== dateOf(before, id))
  expect(moved).toEqual([])
  // The set the draft has just left goes with the next one.
  await isla.ask('POST', '/api/round/fresh')
  const sets = await peek<{ id: string }>(
    world.database,
    `select id from round_set s where made_at < $1::timestamptz - interval '1 day' and id not in (select set_id from round_draft
     union select set_id from round_publication union select set_id from round_run)`,
    [world.clock.now],
  )
  expect(sets).toEqual([])
  world.clock.now = new Date()
})

describe('looking at the round', () => {
  let today: Date
  beforeAll(() => {
    today = world.clock.now
    world.clock.now = new Date(today.getTime() + 86_400_000)
  })
  afterAll(() => {
    world.clock.now = today
  })
  test('it locks and writes nothing; the day’s plan is begun by asking for it, and a set is the same for ever', async () => {
    const rows = () => peek(world.database, 'select version, set_id from round_draft')
    const before = await rows()
    expect((await isla.ask('GET', '/api/round')).body).toBeNull()
    expect((await isla.ask('GET', '/api/round/week')).body).toBeNull()
    expect(await rows()).toEqual(before)
    const opened: RoundState = await good(isla.ask('POST', '/api/round/open'))
    expect(await good(isla.ask('GET', '/api/round'))).toEqual(opened)
    const set = await isla.ask('GET', `/api/round/sets/${opened.setId}`)
    expect(set.headers.get('cache-control')).toBe('private, max-age=31536000, immutable')
    expect(set.body.id).toBe(opened.setId)
    expect((await isla.ask('GET', `/api/round/sets/${uuidv7()}`)).body.error.code).toBe('NOT_FOUND')
  })
})
