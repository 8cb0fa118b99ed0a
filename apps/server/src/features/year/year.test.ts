import { type YearPage, yearPageSchema } from '@evenround/contract/year-page'
import { workYear } from '@evenround/contract/year-work'
import { addDays, isoWeekday, weekStart } from '@evenround/core/units'
import { yearCost } from '@evenround/core/year'
import { v7 as uuidv7 } from 'uuid'
import { YearPlanRow } from '../../db/entities/year'
import { demoId } from '../../demo/ids'
import { peek } from '../../testing/database'
import { good, roundOf } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
let firmId: string
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  firmId = (await peek<{ firm_id: string }>(world.database, 'select firm_id from firm limit 1'))[0]?.firm_id as string
})
afterAll(() => world.close())

const TAM = demoId('person', 'tam')
const look = (): Promise<YearPage> => good(isla.ask('GET', '/api/year'))
const plan = async (more: object): Promise<YearPage> => good(isla.ask('POST', '/api/year/plans', { id: uuidv7(), ...more }))
const act = (page: YearPage, what: 'apply' | 'undo' | 'discard'): Promise<YearPage> =>
  good(isla.ask('POST', `/api/year/plans/${(what === 'undo' ? page.current : page.offered)?.id}/${what}`))
const rowOf = async (id: string): Promise<YearPlanRow> => {
  const row = await world.deps.inFirm(firmId, (scope) => scope.findOne(YearPlanRow, { id }))
  if (!row) throw new Error('it was kept')
  return row
}

test('nothing is planned and nothing offered at first; a plan is an offer, evener than each thing when it is due, and breaks no window', async () => {
  expect(await look()).toMatchObject({ current: null, offered: null, currency: 'EUR' })
  const page = await plan({ kind: 'even' })
  expect(yearPageSchema.safeParse(page).error).toBeUndefined()
  const { offered } = page
  if (!offered) throw new Error('it is offered')
  expect(page.current).toBeNull()
  expect(offered.after.weeks).toHaveLength(52)
  expect(offered.after.weeks.every(({ week }) => isoWeekday(week) === 1)).toBe(true)
  expect(offered.after.weeks[0]?.week).toBe(weekStart(addDays(page.today, 1)))
  expect(offered.after.variation).toBeLessThan(offered.before.variation / 2)
  expect(offered.after.cost).toBeLessThan(offered.before.cost)
  const { known, visits } = await rowOf(offered.id)
  const { broken, cost } = yearCost(known.input, { visits })
  expect(broken).toEqual([])
  expect(offered.after.cost).toBeCloseTo(cost.total, 4)
  // Of a week that runs some days are over: how even the year is goes by the others.
  const hasBegun = page.today >= known.from
  const capacityMin = known.input.capacityMin.map((minutes, week) => (hasBegun && week === 0 ? 0 : minutes))
  expect(offered.after.variation).toBeCloseTo(yearCost({ ...known.input, capacityMin }, { visits }).variation, 6)
  // What is certain, likely and expected is all there is to do.
  for (const { loadMin, fixedMin, likelyMin, expectedMin } of offered.after.weeks)
    expect(fixedMin + likelyMin + expectedMin).toBeCloseTo(loadMin, 4)
  expect(offered.after.workMin + offered.after.travelMin).toBeCloseTo(
    offered.after.weeks.reduce((sum, { loadMin }) => sum + loadMin, 0),
    4,
  )
})

test('every stage that something rates is in it, and its first week lies in the window of its forecast', async () => {
  const { offered } = await look()
  const { known, visits } = await rowOf(offered?.id ?? '')
  const due = await peek<{ stage_id: string; due_on: string }>(
    world.database,
    `select f.stage_id, f.due_on::text from stage_forecast f join stage s on s.id = f.stage_id join system y on y.id = s.system_id and y.gone_at is null
     join site on site.id = y.site_id and site.gone_at is null where f.due_on is not null`,
  )
  expect(known.input.chains.map(({ id }) => id).sort()).toEqual(due.map(({ stage_id }) => stage_id).sort())
  const first = new Map<string, number>()
  for (const { week, chains } of visits) for (const id of chains) if (!first.has(id)) first.set(id, week)
  // Due within the year, and not overdue: done in a week that the due day's own window touches.
  const soon = known.input.chains.filter(({ last, every }) => last + every >= 0 && last + every < 52)
  expect(soon.length).toBeGreaterThan(20)
  for (const { id, last, every, early, late, closed, pinned } of soon) {
    const week = first.get(id) as number
    if (closed === undefined && pinned === undefined) {
      expect(week).toBeGreaterThanOrEqual(Math.max(0, last + every - early))
      expect(week).toBeLessThanOrEqual(last + every + late + 1)
    }
  }
})

test('applied it is in force: the quarter is made by it and the weeks behind it are its own; taken back nothing is left of it', async () => {
  const before = await roundOf(isla)
  expect(before.set.byYear).toBeUndefined()
  const offered = await look()
  const page = await act(offered, 'apply')
  expect(page.offered).toBeNull()
  expect(page.current).toMatchObject({ id: offered.offered?.id, after: offered.offered?.after })
  // Whoever looks next sees it: nobody has to plan first.
  const { set } = await roundOf(isla)
  expect(set.byYear).toBe(page.current?.id)
  // The weeks' hours are the year's own.
  const loads = new Map(page.current?.after.weeks.map(({ week, loadMin }) => [week, Math.round(loadMin)]))
  expect(set.year.map(({ minutes }) => minutes)).toEqual(set.year.map(({ week }) => loads.get(week) ?? 0))
  const { visits } = await rowOf(page.current?.id ?? '')
  const weeks = new Map<string, string[]>()
  for (const { week, chains } of visits)
    for (const id of chains) weeks.set(id, [...(weeks.get(id) ?? []), addDays(page.current?.after.weeks[0]?.week ?? '', 7 * week)])
  // Whatever is planned by the year in this quarter is near its week of it, but for what is overdue or stood on the road already.
  const last = set.days.at(-1) ?? ''
  for (const visit of set.visits.filter(({ kind }) => kind === 'due')) {
    const [from, to] = visit.windowDays.map((day) => set.days[day] ?? last) as [string, string]
    const near = visit.stops
      .flatMap(({ tasks }) => tasks)
      .some(({ stageId }) => (weeks.get(stageId) ?? []).some((week) => addDays(week, -7) <= to && addDays(week, 13) >= from))
    expect(near).toBe(true)
  }
  const back = await act(await look(), 'undo')
  expect(back).toMatchObject({ current: null, offered: null })
  expect((await roundOf(isla)).set.byYear).toBeUndefined()
})

test('some of a heavy week is moved at the price that was said, applied, and taken back', async () => {
  const page = await act(await plan({ kind: 'even' }), 'apply')
  const row = await rowOf(page.current?.id ?? '')
  const { chains, capacityMin } = row.known.input
  // Somebody works the week after, and the site is open then: on any date there is such work.
  const movable = (week: number, closed: readonly number[] = []): boolean =>
    week > 4 && week < 40 && (capacityMin[week + 1] ?? 0) > 0 && !closed.includes(week + 1)
  const visitOf = ({ id, closed }: (typeof chains)[number]) =>
    row.visits.find((one) => one.chains.includes(id) && movable(one.week, closed))
  const chain = chains.find((one) => one.pinned === undefined && one.every > 12 && visitOf(one) !== undefined)
  const visit = chain && visitOf(chain)
  if (!chain || !visit) throw new Error('there is something to move')
  const monday = (week: number): string => addDays(row.fromDay, 7 * week)
  const moved = await plan({ kind: 'move', planId: row.id, chains: [chain.id], from: monday(visit.week), to: monday(visit.week + 1) })
  const { offered } = moved
  expect(offered).toMatchObject({ kind: 'move', before: page.current?.after })
  const kept = await rowOf(offered?.id ?? '')
  expect(kept.visits.some(({ week, chains }) => week === visit.week + 1 && chains.includes(chain.id))).toBe(true)
  expect(yearCost(kept.known.input, kept).broken).toEqual([])
  expect(yearCost(kept.known.input, kept).cost.total).toBeCloseTo(offered?.after.cost ?? 0, 4)
  const applied = await act(moved, 'apply')
  expect(applied.current?.id).toBe(offered?.id)
  // The one before is in force again.
  expect((await act(applied, 'undo')).current?.id).toBe(row.id)
  expect(
    (
      await isla.ask('POST', '/api/year/plans', {
        id: uuidv7(),
        kind: 'move',
        planId: row.id,
        chains: [chain.id],
        from: monday(1),
        to: monday(60),
      })
    ).status,
  ).toBe(409)
})

test('what if: planned anew beside today; another base is applied with it, and the figures are those that were shown', async () => {
  const asked = await look()
  const other = asked.places.find(({ id }) => !asked.people.some(({ base }) => base === id))
  const page = await plan({ kind: 'what-if', whatIf: { kind: 'base', personId: TAM, base: other?.id } })
  expect(page.offered).toMatchObject({ kind: 'what-if', mayApply: true, whyNot: '' })
  expect(page.offered?.title).toContain(other?.name)
  const applied = await act(page, 'apply')
  expect(applied.people.find(({ id }) => id === TAM)?.base).toBe(other?.id)
  expect(applied.current?.after).toEqual(page.offered?.after)
  // Planned again from what is there now: the same year.
  const again = await plan({ kind: 'even' })
  const { input: then } = (await rowOf(applied.current?.id ?? '')).known
  const { input: now } = (await rowOf(again.offered?.id ?? '')).known
  expect(now).toEqual(then)
  expect(again.offered?.before.cost).toBeCloseTo(page.offered?.after.cost ?? 0, 4)
  // Taken back, the base is where it was.
  const back = await act(await look(), 'undo')
  expect(back.people).toEqual(asked.people)
})

test('what if: more customers are more work, one person less is fewer hours, and neither can be applied before it is so', async () => {
  const { people, today } = await look()
  const [site] = await peek<{ id: string }>(
    world.database,
    `select s.site_id as id from stage_forecast s where s.due_on > '${today}' group by 1 order by count(*) desc limit 1`,
  )
  const more = (await plan({ kind: 'what-if', whatIf: { kind: 'customers', count: 20, likeSiteId: site?.id } })).offered
  expect(more?.after.workMin).toBeGreaterThan((more?.before.workMin ?? 0) * 1.1)
  expect(more?.after.partsMinor).toBeGreaterThan(more?.before.partsMinor ?? 0)
  expect(more).toMatchObject({ mayApply: false, whyNot: expect.stringContaining('Add their sites') })
  expect((await isla.ask('POST', `/api/year/plans/${more?.id}/apply`)).status).toBe(409)
  const hours = (weeks: { capacityMin: number }[] = []): number => weeks.reduce((sum, { capacityMin }) => sum + capacityMin, 0)
  const less = (await plan({ kind: 'what-if', whatIf: { kind: 'person-less', personId: people[0]?.id } })).offered
  expect(hours(less?.after.weeks)).toBeLessThan(hours(less?.before.weeks))
  const extra = (await plan({ kind: 'what-if', whatIf: { kind: 'person-more', base: people[0]?.base } })).offered
  expect(hours(extra?.after.weeks)).toBeGreaterThan(hours(extra?.before.weeks))
  const contract = (await plan({ kind: 'what-if', whatIf: { kind: 'contract', months: 6 } })).offered
  expect(contract?.title).toBe('Everything every 6 months by contract')
})

test('what if the ferry stops for a quarter: nobody is planned on the far islands meanwhile, and the drive is counted in kilometres', async () => {
  const { today, crossings } = await look()
  expect(crossings.map(({ id }) => id)).toEqual(['islands:ferry', 'islands:causeway'])
  const [fromDay, toDay] = [addDays(today, 28), addDays(today, 28 + 13 * 7)]
  const { offered } = await plan({ kind: 'what-if', whatIf: { kind: 'crossing', crossingId: 'islands:ferry', fromDay, toDay } })
  expect(offered).toMatchObject({ mayApply: false, title: 'The ferry stops for 13 weeks' })
  const { known, visits } = await rowOf(offered?.id ?? '')
  const far = new Set(
    (
      await peek<{ id: string }>(
        world.database,
        `select id from site where island in ('Murrow Holm', 'Eider Holm', 'Anvil Holm', 'murrow-holm', 'eider-holm', 'anvil', 'anvil-holm')`,
      )
    ).map(({ id }) => id),
  )
  expect(far.size).toBeGreaterThan(0)
  const stopped = known.input.chains.filter(({ site }) => far.has(site)).map(({ closed = [] }) => closed.length)
  expect(Math.min(...stopped)).toBeGreaterThanOrEqual(13)
  const weekOfDay = (day: string): number => Math.floor((Date.parse(day) - Date.parse(known.from)) / (7 * 86_400_000))
  for (const { site, week } of visits) if (far.has(site)) expect(week > weekOfDay(fromDay) && week < weekOfDay(toDay)).toBe(false)
  // Fewer crossings are fewer kilometres, and both years have some.
  expect(offered?.before.km).toBeGreaterThan(100)
  expect(offered?.after.km).toBeGreaterThan(100)
  expect(yearCost(known.input, { visits }).broken).toEqual([])
})

test('a year that a device planned is taken as it is planned, and gone on with by what is known here', async () => {
  const { work } = (await isla.ask('GET', '/api/year/work')).body
  const here = workYear(work, 0.2)
  const { offered } = await plan({ kind: 'here', from: work.known.from, visits: here?.visits })
  expect(offered).toMatchObject({ kind: 'even', mayApply: true, after: here?.shown.after })
  // What nobody may do is not taken: a visit moved a year off is done in its own window.
  const wild = here?.visits.map((visit, at) => (at === 0 ? { ...visit, week: 51 } : visit))
  const tamed = (await plan({ kind: 'here', from: work.known.from, visits: wild })).offered
  const { known, visits } = await rowOf(tamed?.id ?? '')
  expect(yearCost(known.input, { visits }).broken).toEqual([])
})

test('what is not there is refused at its place; a technician looks and does not plan', async () => {
  const ask = (whatIf: object) => isla.ask('POST', '/api/year/plans', { id: uuidv7(), kind: 'what-if', whatIf })
  expect((await ask({ kind: 'base', personId: uuidv7(), base: 'nowhere' })).text).toContain('somebody with working times')
  expect((await ask({ kind: 'base', personId: TAM, base: 'nowhere' })).text).toContain('a place the firm keeps')
  expect((await ask({ kind: 'customers', count: 2, likeSiteId: uuidv7() })).text).toContain('a site of this firm')
  expect((await ask({ kind: 'crossing', crossingId: 'x', fromDay: '2026-01-01', toDay: '2026-02-01' })).text).toContain(
    'a crossing this firm takes',
  )
  expect((await ask({ kind: 'crossing', crossingId: 'x', fromDay: '2026-03-01', toDay: '2026-02-01' })).status).toBe(400)
  expect((await ask({ kind: 'customers', count: 0, likeSiteId: uuidv7() })).status).toBe(400)
  const wren = await world.signIn('wren@fennick.example')
  expect((await wren.ask('GET', '/api/year')).status).toBe(200)
  expect((await wren.ask('POST', '/api/year/plans', { id: uuidv7(), kind: 'even' })).status).toBe(403)
})
