import type { OfficeDto } from '@evenround/contract/office'
import type { SitePageDto } from '@evenround/contract/site'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../testing/database'
import { batch } from '../testing/facts'
import { openWorld, type Person, type World } from '../testing/world'

let world: World
let isla: Person
let tam: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(() => world.close())

const office = async (): Promise<OfficeDto> => (await isla.ask('GET', '/api/office')).body
const send = async (who: Person, ...facts: object[]) =>
  (await who.ask('POST', '/api/facts', { ...batch(...facts), sentAt: world.clock.now.toISOString() })).body.results
const fact = (more: object) => ({
  id: uuidv7(),
  at: world.clock.now.toISOString(),
  seq: 1,
  visitId: uuidv7(),
  supersedes: null,
  voided: false,
  ...more,
})

test('a safety hold stands first, with whom to call; who was told is recorded, by whom and when', async () => {
  const site = (await isla.ask('GET', '/api/sites')).body.sites.find(({ name }: { name: string }) => name === 'Net loft cottage').id
  const hold = fact({ kind: 'hold-begun', siteId: site, holdKind: 'do-not-drink', until: null, text: 'Coliforms found: nobody drinks it.' })
  expect(await send(isla, hold)).toMatchObject([{ status: 'accepted' }])
  const alarm = async () => (await office()).alarms.find((one) => one.hold.id === hold.id)
  expect(await alarm()).toMatchObject({
    siteName: 'Net loft cottage',
    contact: 'Ann Tolliver',
    phone: 'Skellan 231',
    hold: { holdKind: 'do-not-drink', told: null },
    jobId: null,
  })
  const tried = fact({ kind: 'hold-told', siteId: site, holdId: hold.id, whom: 'Ann Tolliver', how: 'nobody-reached' })
  expect(await send(isla, tried)).toMatchObject([{ status: 'accepted' }])
  expect((await alarm())?.hold.told).toMatchObject({ how: 'nobody-reached', byName: 'Isla Fennick' })
  world.clock.now = new Date(world.clock.now.getTime() + 600_000)
  const told = fact({ kind: 'hold-told', siteId: site, holdId: hold.id, whom: 'Ann Tolliver', how: 'telephone' })
  expect(await send(tam, told)).toMatchObject([{ status: 'accepted' }])
  // Told and kept to, it wants nobody in the office any more.
  expect(await alarm()).toBeUndefined()
  const page = (await tam.ask('GET', `/api/sites/${site}`)).body as SitePageDto
  expect(page.holds.find(({ id }) => id === hold.id)?.told).toEqual({
    whom: 'Ann Tolliver',
    how: 'telephone',
    at: world.clock.now.toISOString(),
    byName: 'Tam Orrin',
  })
  const nobody = fact({ kind: 'hold-told', siteId: site, holdId: uuidv7(), whom: 'Ann', how: 'telephone' })
  expect(await send(isla, nobody)).toMatchObject([{ status: 'refused', reason: 'unknown-reference' }])
})

test('what the laboratory found stands first until somebody is told of it; what was told on the spot and waits for its result does not', async () => {
  const { alarms } = await office()
  expect(alarms[0]).toMatchObject({
    siteName: 'Weaving mill',
    found: { what: 'positive' },
    hold: { holdKind: 'boil-or-bottled', told: null },
  })
  const names = alarms.map(({ siteName }) => siteName)
  // Dosed this week and told at the door; sampled, and its result is due.
  expect([names.includes('Stack Farm'), names.includes('Smokehouse')]).toEqual([false, false])
  const [mill] = alarms
  const told = fact({ kind: 'hold-told', siteId: mill?.siteId, holdId: mill?.hold.id, whom: 'Sorrel Quist', how: 'telephone' })
  expect(await send(isla, told)).toMatchObject([{ status: 'accepted' }])
  // It stays until the cause is found and the repeat is clean; that they know is said.
  expect((await office()).alarms[0]).toMatchObject({ siteName: 'Weaving mill', hold: { told: { whom: 'Sorrel Quist' } } })
})

test('the road has everybody’s stops of the day, and how far they are', async () => {
  const { road, day } = await office()
  const [planned] = await peek<{ n: number; people: number }>(
    world.database,
    'select count(*)::int as n, count(distinct technician_id)::int as people from stop where day = $1',
    [day],
  )
  expect([road.flatMap(({ stops }) => stops).length, road.length]).toEqual([planned?.n, planned?.people])
  const own = road.find(({ name }) => name === 'Tam Orrin')?.stops ?? []
  expect(own.map(({ leaveMin }) => leaveMin)).toEqual([...own.map(({ leaveMin }) => leaveMin)].sort((a, b) => a - b))
  const stop = own[0]
  const [row] = await peek<{ site_id: string; system_id: string; train_version: number }>(
    world.database,
    'select s.site_id, s.system_id, y.train_version from stop s join system y on y.id = s.system_id where s.id = $1',
    [stop?.id],
  )
  const visitId = uuidv7()
  const begun = {
    kind: 'visit-begun',
    visitId,
    siteId: row?.site_id,
    systemId: row?.system_id,
    stopId: stop?.id,
    trainVersion: row?.train_version,
    engineVersion: 1,
    tasks: [],
    place: null,
  }
  await send(tam, fact(begun))
  const state = async () => (await office()).road.flatMap(({ stops }) => stops).find(({ id }) => id === stop?.id)?.state
  expect(await state()).toBe('begun')
  await send(
    tam,
    fact({
      kind: 'visit-finished',
      visitId,
      siteId: row?.site_id,
      outcome: 'nobody-home',
      monitorReset: null,
      customerTold: false,
      note: '',
      leftStanding: [],
      notRight: [],
    }),
  )
  expect(await state()).toBe('done')
  expect((await office()).road.find(({ name }) => name === 'Tam Orrin')?.heardAt).toBe(world.clock.now.toISOString())
})

test('what is spent and overdue is counted as the list counts it; a technician has no office', async () => {
  const { late, contracts } = await office()
  const today = (await tam.ask('GET', '/api/today')).body
  expect({ spent: late.spent, overdue: late.overdue }).toEqual(today.late)
  expect(late.unscheduled).toBeLessThanOrEqual(late.spent + late.overdue)
  const [advised] = await peek<{ shorten: number; lengthen: number }>(
    world.database,
    `select (count(*) filter (where advice = 'shorten'))::int as shorten, (count(*) filter (where advice = 'lengthen'))::int as lengthen from stage_forecast`,
  )
  expect(contracts).toEqual(advised)
  expect((await tam.ask('GET', '/api/office')).status).toBe(403)
})

/** Between two points of the curve the hazard is constant: the chance of being good falls as a power there. */
function stillGood(days: readonly number[], survival: readonly number[], age: number): number {
  const next = Math.max(
    1,
    days.findIndex((day) => day >= age),
  )
  const [from, to, a, b] = [days[next - 1] ?? 0, days[next] ?? 1, survival[next - 1] ?? 1, survival[next] ?? 0]
  return a * (b / a) ** ((age - from) / (to - from))
}

test('a part that comes out is held against the forecast as it was stored, not as it is recomputed', async () => {
  const before = (await office()).score.forecasts
  const [stage] = await peek<{ stage_id: string; site_id: string; days: number[]; survival: number[]; fitted_on: string; label: number }>(
    world.database,
    `select stage_id, site_id, days, survival, fitted_on::text, (due->>'labelAmount')::int as label from stage_forecast
     where fitted_known and due->>'labelBy' = 'days' and fitted_on < test_clock()::date - 60 order by stage_id limit 1`,
  )
  const fixedBefore = (await office()).score.fixed
  const removed = fact({ kind: 'part-removed', siteId: stage?.site_id, stageId: stage?.stage_id, found: 'spent', dirtPast: null })
  expect(await send(isla, removed)).toMatchObject([{ status: 'accepted' }])
  const after = (await office()).score.forecasts
  expect([after.parts - before.parts, after.spent - before.spent]).toEqual([1, 1])
  const day = (await office()).day
  const age = (Date.parse(day) - Date.parse(stage?.fitted_on ?? '')) / 86_400_000
  expect(after.foretold - before.foretold).toBeCloseTo(1 - stillGood(stage?.days ?? [], stage?.survival ?? [], age), 5)
  // A label of days: so many of them as it served, and the days past the end summed day by day.
  const fixed = (await office()).score.fixed
  expect(fixed.parts - fixedBefore.parts).toBe(1)
  expect(fixed.byLabel - fixedBefore.byLabel).toBeCloseTo(age / (stage?.label ?? Number.NaN), 6)
  const past = (to: number): number =>
    Array.from({ length: to }, (_, at) => 1 - stillGood(stage?.days ?? [], stage?.survival ?? [], at + 0.5)).reduce(
      (sum, one) => sum + one,
      0,
    )
  expect(fixed.pastDays - fixedBefore.pastDays).toBeCloseTo(past(age), 3)
  expect(fixed.labelPastDays - fixedBefore.labelPastDays).toBeCloseTo((past(stage?.label ?? 0) * age) / (stage?.label ?? 1), 3)
})
