import type { DuePage, StagePageDto } from '@evenround/contract/due'
import type { SitePageDto, TodayDto } from '@evenround/contract/site'
import { dueRulesSchema, type HindsightDto, hindsightSchema, type RulePreview } from '@evenround/contract/wear'
import { addMonths, daysBetween, monthOf } from '@evenround/core/units'
import { USUAL_RULE } from '@evenround/core/wear'
import { demoId } from '../../demo/ids'
import { peek } from '../../testing/database'
import { freshRoundOf } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
let tam: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example', 'skellan-sound')
  tam = await world.signIn('tam@fennick.example', 'skellan-sound')
})
afterAll(() => world.close())

const SITE = demoId('site', 'net-loft')
const SYSTEM = demoId('system', 'net-loft')
const STAGE = demoId('stage', 'net-loft', 2)
const contract = (months: number, more: object = {}) => ({ ...USUAL_RULE, by: 'contract', months, ...more })
const stage = async (id = STAGE): Promise<StagePageDto> => (await isla.ask('GET', `/api/stages/${id}`)).body
const choose = (level: string, about: string, rule: object | null, who = isla) => who.ask('PUT', '/api/due-rules', { level, about, rule })
const row = async (id = STAGE) =>
  ((await isla.ask('GET', '/api/due?limit=1000')).body as DuePage).rows.find(({ stageId }) => stageId === id)

test('the nearest choice holds, from the firm to the stage; what is taken back follows the next wider one', async () => {
  // The demo's own promise to this customer.
  await choose('site', SITE, null)
  for (const [level, about, months] of [
    ['firm', 'firm', 24],
    ['medium', 'carbon-block', 18],
    ['site', SITE, 12],
    ['system', SYSTEM, 9],
    ['stage', STAGE, 6],
  ] as const) {
    expect((await choose(level, about, contract(months))).status).toBe(200)
    const { due, part } = await stage()
    expect(due?.rule).toMatchObject({ by: 'contract', months, from: level })
    expect(due?.setBy === 'readings' || due?.due === addMonths(part?.fittedOn ?? '', months)).toBe(true)
  }
  expect((await stage()).ruledAt).toEqual(['stage', 'system', 'site', 'medium'])
  const { body } = await isla.ask('GET', '/api/due-rules')
  expect(dueRulesSchema.parse(body)).toMatchObject({
    firm: { months: 24 },
    media: [{ media: 'carbon-block' }],
    // Beside the demo's two stages whose system is under contract without them.
    own: { system: 1, stage: 3 },
  })
  for (const [level, about, left] of [
    ['stage', STAGE, 9],
    ['system', SYSTEM, 12],
    ['site', SITE, 18],
    ['medium', 'carbon-block', 24],
  ] as const) {
    await choose(level, about, null)
    expect((await stage()).due?.rule.months).toBe(left)
  }
  await choose('firm', 'firm', null)
  expect((await stage()).due?.rule).toMatchObject({ by: 'evidence', from: 'firm' })
})

test('one day on the stage’s page, the list, the site, the file and the round', async () => {
  await choose('site', SITE, contract(12))
  const { due } = await stage()
  expect((await row())?.due).toMatchObject({ due: due?.due, state: due?.state, rule: due?.rule })
  const { body: site } = await isla.ask('GET', `/api/sites/${SITE}`)
  expect(site.systems[0].stages[1].due).toEqual(due)
  const csv = (await isla.ask('GET', '/api/due.csv')).text
  const line = csv.split('\r\n').find((one) => one.includes(STAGE))
  expect(line).toContain(`,${due?.state},${due?.due},`)
  expect(line).toContain(',contract,12,')
  const { body: sites } = await isla.ask('GET', '/api/sites')
  const listed = sites.sites.find(({ id }: { id: string }) => id === SITE)
  expect(listed.spent + listed.overdue).toBe(
    site.systems
      .flatMap(({ stages }: { stages: StagePageDto[] }) => stages)
      .filter(({ due }: StagePageDto) => ['spent', 'overdue'].includes(due?.state ?? '')).length,
  )
})

test('every part has one day: in the list, on its site, at its stop and in the round', async () => {
  const { rows } = (await isla.ask('GET', '/api/due?limit=1000')).body as DuePage
  const listed = new Map(rows.map((one) => [one.stageId, one.due]))
  expect(new Set(rows.map(({ due }) => due.state))).toEqual(new Set(['spent', 'overdue', 'any-day', 'good']))
  const sites = [...new Set(rows.map(({ siteId }) => siteId))].slice(0, 12)
  for (const siteId of sites) {
    const { systems } = (await isla.ask('GET', `/api/sites/${siteId}`)).body as SitePageDto
    for (const { id, due } of systems.flatMap(({ stages }) => stages)) expect([siteId, due]).toEqual([siteId, listed.get(id) ?? null])
  }
  const { stops, late } = (await tam.ask('GET', '/api/today')).body as TodayDto
  for (const { id, due } of stops.flatMap(({ system }) => system.stages)) expect(due).toEqual(listed.get(id) ?? null)
  const count = (state: string): number => rows.filter(({ due }) => due.state === state).length
  expect(late).toEqual({ spent: count('spent'), overdue: count('overdue') })
  const { set } = await freshRoundOf(isla)
  const tasks = set.visits.flatMap((visit) => visit.stops.flatMap((stop) => stop.tasks)).filter(({ dueOn }) => dueOn !== null)
  expect(tasks.length).toBeGreaterThan(50)
  const firsts = new Map(tasks.map(({ stageId, dueOn }) => [stageId, dueOn]))
  for (const [stageId, dueOn] of firsts) {
    const due = listed.get(stageId)
    expect([stageId, dueOn]).toEqual([stageId, due && due.spentOn < due.due ? due.spentOn : due?.due])
  }
})

test('a contract’s visit stands within its month', async () => {
  // Any stage whose change by a yearly day five weeks hence is still to come, and that stands on nobody's road.
  const { today } = await stage()
  const anchor = addMonths(today, 1)
  await choose('firm', 'firm', contract(12, { anchor }))
  const { set } = await freshRoundOf(isla)
  const promised = (await isla.ask('GET', '/api/due?limit=1000')).body as DuePage
  const onDay = new Set(promised.rows.filter(({ due }) => due.setBy === 'contract' && due.due === anchor).map(({ stageId }) => stageId))
  const { from, to } = monthOf(anchor)
  const visits = set.visits.filter(
    ({ kind, stops }) =>
      kind === 'due' && stops.every(({ tasks }) => tasks.every(({ stageId, dueOn }) => onDay.has(stageId) && dueOn === anchor)),
  )
  expect(visits.length).toBeGreaterThan(1)
  for (const { windowDays } of visits) {
    const [first, last] = windowDays.map((day) => set.days[day] as string) as [string, string]
    expect([first >= from || first === set.days[0], last <= to]).toEqual([true, true])
  }
  await choose('firm', 'firm', null)
})

test('advice to contracts is a list: what is spent well before them, and what is far from done', async () => {
  await choose('firm', 'firm', contract(36))
  const shorten = (await isla.ask('GET', '/api/due?advice=shorten&limit=1000')).body as DuePage
  expect(shorten.rows.length).toBeGreaterThan(5)
  expect(shorten.rows.every(({ due }) => due.advice === 'shorten')).toBe(true)
  await choose('firm', 'firm', contract(1))
  const lengthen = (await isla.ask('GET', '/api/due?advice=lengthen&limit=1000')).body as DuePage
  expect(lengthen.rows.length).toBeGreaterThan(shorten.rows.length)
  await choose('firm', 'firm', null)
})

test('a preview says what a choice would do and changes nothing', async () => {
  const ask = async (rule: object | null): Promise<RulePreview> =>
    (await isla.ask('POST', '/api/due-rules/preview', { level: 'medium', about: 'carbon-block', rule })).body
  const before = await row()
  const monthly = await ask(contract(1))
  expect(monthly.earlier).toBeGreaterThan(10 * monthly.later)
  const careful = await ask({ ...USUAL_RULE, care: 'careful' })
  expect(careful.looked).toBeGreaterThan(10)
  expect(careful.earlier).toBeGreaterThan(careful.later)
  expect(careful.medianShiftDays).toBeLessThanOrEqual(0)
  expect(await ask(null)).toMatchObject({ earlier: 0, later: 0 })
  expect((await row())?.due.due).toBe(before?.due.due)
})

test('only who may choose schools chooses rules; what is no rule, or of nobody, is refused at its place', async () => {
  expect((await choose('firm', 'firm', contract(6), tam)).status).toBe(403)
  expect((await choose('firm', 'firm', { ...USUAL_RULE, by: 'contract' })).body.error.fields[0].path).toBe('rule.months')
  expect((await choose('medium', 'gold', USUAL_RULE)).body.error.fields[0].path).toBe('about')
  expect((await choose('site', 'net-loft', USUAL_RULE)).body.error.fields[0].path).toBe('about')
  expect((await choose('stage', demoId('stage', 'nowhere', 1), USUAL_RULE)).status).toBe(404)
})

test('a use that somebody stated replaces the guess by the kind of place, nearest first, and moves the label’s day', async () => {
  const state = (level: string, about: string, use: object | null) => tam.ask('PUT', '/api/uses', { level, about, use })
  const drinks = (amount: number) => ({ by: 'drinks-a-day', amount, fillL: null })
  // Two people at home.
  expect((await stage()).use).toMatchObject({ expected: { litresPerDay: 6, from: 'kind' } })
  await state('site', SITE, drinks(80))
  expect((await stage()).use?.expected).toEqual({ litresPerDay: 20, from: 'site' })
  const much = await stage()
  await state('stage', STAGE, drinks(4))
  const little = await stage()
  expect(little.use?.expected).toEqual({ litresPerDay: 1, from: 'stage' })
  expect((little.due?.labelDay ?? '') > (much.due?.labelDay ?? '')).toBe(true)
  await state('site', SITE, { by: 'cubic-metres-a-quarter', amount: 40, fillL: null })
  await state('stage', STAGE, null)
  // A bill is the whole house's and says nothing of one tap.
  expect((await stage()).use?.expected).toEqual({ litresPerDay: 6, from: 'kind' })
  await state('site', SITE, null)
  expect((await state('site', SITE, drinks(0))).body.error.fields[0].path).toBe('use.amount')
})

test('the firm’s own two years by each rule: months that are fewer use more parts and run less past the end', async () => {
  const told: HindsightDto = hindsightSchema.parse((await isla.ask('GET', '/api/due-rules/hindsight')).body)
  expect(daysBetween(told.from, told.to)).toBe(730)
  expect(told.looked).toBeGreaterThan(100)
  const by = (months: number) => told.rules.find(({ rule }) => rule.months === months)
  expect(by(6)?.parts).toBeGreaterThan((by(12)?.parts ?? 0) * 1.3)
  expect(by(6)?.lateDays).toBeLessThan(by(12)?.lateDays ?? 0)
  const [changes] = await peek<{ n: string }>(world.database, `select count(*) as n from fact_part_removed where at > $1::date - 730`, [
    told.to,
  ])
  expect(told.done.parts).toBeGreaterThan(0.5 * Number(changes?.n))
  expect(told.done.parts).toBeLessThanOrEqual(Number(changes?.n))
})
