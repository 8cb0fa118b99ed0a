import type { DuePage, DueRow, StagePageDto } from '@evenround/contract/due'
import type { Fact } from '@evenround/core/visit'
import { summarise } from '@evenround/core/wear'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, begun, fitted, gauged as read } from '../../testing/facts'
import { openWorld, type Person, type World } from '../../testing/world'
import { refreshFirm } from './refresh'

let world: World
let tam: Person
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  tam = await world.signIn('tam@fennick.example')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

const due = async (query = ''): Promise<DuePage> => (await isla.ask('GET', `/api/due${query}`)).body
const stage = async (id: string): Promise<StagePageDto> => (await isla.ask('GET', `/api/stages/${id}`)).body
const rowOf = async (id: string): Promise<DueRow> => {
  const found = (await due('?limit=1000')).rows.find(({ stageId }) => stageId === id)
  if (!found) throw new Error(`stage ${id} is not due at all`)
  return found
}
const days = (from: string, to: string): number => (Date.parse(to) - Date.parse(from)) / 86_400_000
/** Width of what is believed of a sediment stage's pressure. */
function pressureDays(forecast: StagePageDto['forecast']): number {
  const pressure = forecast?.causes.find(({ cause }) => cause === 'pressure')
  if (!pressure) throw new Error('no pressure')
  return days(pressure.p10, pressure.p90)
}

/** A stage of the demo with a sediment element in it, and a visit begun there. */
async function atSediment(): Promise<{ siteId: string; systemId: string; visitId: string; stageId: string }> {
  const row = (await due('?media=sediment&limit=1')).rows[0] as DueRow
  const place = { siteId: row.siteId, systemId: row.systemId, visitId: uuidv7() }
  await tam.ask('POST', '/api/facts', batch(begun(place)))
  return { ...place, stageId: row.stageId }
}

describe('readings move the forecast', () => {
  test('a pair of gauges narrows the window and moves the list', async () => {
    const { stageId, ...place } = await atSediment()
    const before = await rowOf(stageId)
    const told = await stage(stageId)
    expect(told.forecast?.narrowing.map(({ reading }) => reading)).toContain('pressure-pair')
    const today = world.clock.now
    const at = (daysAgo: number) => ({ at: new Date(today.getTime() - daysAgo * 86_400_000).toISOString() })
    const facts = [60, 40, 20, 0].map((ago, i) => read(place, stageId, { inKpa: 300, outKpa: 300 - 8 * 2 ** i }, at(ago)))
    const answer = await tam.ask('POST', '/api/facts', batch(...facts))
    expect(answer.body.results.map(({ status }: { status: string }) => status)).toEqual(facts.map(() => 'accepted'))
    const after = await rowOf(stageId)
    expect(after.p50).not.toBe(before.p50)
    const { series, forecast } = await stage(stageId)
    // Of the cause that was measured; what was read also says that the whole part lasts longer here than the usual one.
    expect(pressureDays(forecast)).toBeLessThan(pressureDays(told.forecast))
    expect(series.find(({ quantity }) => quantity === 'drop-kpa')?.points.map(({ value }) => value)).toEqual([8, 16, 32, 64])
  })
  test('a reading of a stage elsewhere is refused', async () => {
    const { stageId: _, ...place } = await atSediment()
    const other = (await due('?limit=1000')).rows.find(({ siteId }) => siteId !== place.siteId) as DueRow
    const answer = await tam.ask('POST', '/api/facts', batch(read(place, other.stageId, { inKpa: 300, outKpa: 280 })))
    expect(answer.body.results[0]).toMatchObject({ status: 'refused', reason: 'unknown-reference' })
  })
  test('a new part begins a new life; the old one stands in its history', async () => {
    const { stageId, ...place } = await atSediment()
    const { history } = await stage(stageId)
    await tam.ask('POST', '/api/facts', batch(fitted(place, stageId, { partNumber: 'BRK-SED-20' } as Partial<Fact>)))
    const now = await stage(stageId)
    expect(now.part).toMatchObject({ partNumber: 'BRK-SED-20', dateKnown: true })
    expect(now.history).toHaveLength(history.length + 1)
    expect((await rowOf(stageId)).fittedOn).toBe(now.today)
  })
})

/** What is spent stands in the list from the day on which it became so. */
const listedOn = ({ due: { due, spentOn } }: DueRow): string => (spentOn < due ? spentOn : due)

describe('all that is due', () => {
  test('by date, page after page, everything once and in order', async () => {
    const all = await due('?limit=1000')
    expect(all.total).toBe(all.rows.length)
    const seen: DueRow[] = []
    let after = ''
    do {
      const page: DuePage = await due(`?limit=7${after}`)
      seen.push(...page.rows)
      after = page.next === null ? '' : `&after=${page.next}`
    } while (after !== '')
    expect(seen.map(({ stageId }) => stageId)).toEqual(all.rows.map(({ stageId }) => stageId))
    expect(seen.map(listedOn)).toEqual(seen.map(listedOn).sort())
  })
  test('by risk, and by place', async () => {
    const risks = (await due('?sort=risk&limit=1000')).rows.map(({ due: { ended } }) => ended)
    expect(risks).toEqual([...risks].sort((a, b) => b - a))
    const pages = [await due('?sort=risk&limit=10')]
    pages.push(await due(`?sort=risk&limit=10&after=${pages[0]?.next}`))
    const ids = pages.flatMap(({ rows }) => rows.map(({ stageId }) => stageId))
    expect(new Set(ids).size).toBe(20)
    const islands = (await due('?sort=place&limit=1000')).rows.map(({ island }) => island)
    expect([...new Set(islands)]).toEqual([...new Set(islands)].sort())
  })
  test('filters: medium, day, risk, island, words', async () => {
    const { rows, today } = await due('?limit=1000')
    const kinds = await due('?media=membrane&limit=1000')
    expect(kinds.rows.length).toBe(rows.filter(({ media }) => media === 'membrane').length)
    const soon = await due(`?until=${today}&limit=1000`)
    expect(soon.rows.every((row) => listedOn(row) <= today)).toBe(true)
    const risky = await due('?risk=50&limit=1000')
    // The day by which one in two is done is a whole day: the chance on it may be a hair under a half.
    expect(risky.rows.every(({ due: { ended } }) => ended > 0.49)).toBe(true)
    expect(risky.rows.length).toBeGreaterThanOrEqual(rows.filter(({ due: { ended } }) => ended >= 0.5).length)
    expect(risky.rows.length).toBeLessThan(rows.length)
    expect((await due('?text=BRK-SED&limit=1000')).rows.every(({ partNumber }) => partNumber.startsWith('BRK-SED'))).toBe(true)
    expect((await due('?text=%25')).rows).toEqual([])
    expect((await due('?island=Nowhere')).rows).toEqual([])
  })
  test('a place that is none is said at its field', async () => {
    const answer = await isla.ask('GET', '/api/due?after=xyz')
    expect([answer.status, answer.body.error.fields[0].path]).toEqual([400, 'after'])
    expect((await isla.ask('GET', '/api/due?sort=mood')).status).toBe(400)
  })
})

describe('schools', () => {
  test('a stage follows its own, else its site’s, else the firm’s; only who may change schools changes them', async () => {
    const { stageId, siteId } = (await due('?media=carbon-block&limit=1')).rows[0] as DueRow
    expect((await stage(stageId)).school).toEqual({ inForce: 'earliest', from: 'firm' })
    expect((await tam.ask('PUT', `/api/sites/${siteId}/school`, { school: 'calendar' })).status).toBe(403)
    await isla.ask('PUT', `/api/sites/${siteId}/school`, { school: 'calendar' })
    expect((await stage(stageId)).school).toEqual({ inForce: 'calendar', from: 'site' })
    expect(await rowOf(stageId)).toMatchObject({ school: 'calendar', governing: 'calendar' })
    await isla.ask('PUT', `/api/stages/${stageId}/school`, { school: 'usage' })
    expect((await stage(stageId)).school).toEqual({ inForce: 'usage', from: 'stage' })
    await isla.ask('PUT', `/api/stages/${stageId}/school`, { school: null })
    await isla.ask('PUT', `/api/sites/${siteId}/school`, { school: null })
    expect((await stage(stageId)).school).toEqual({ inForce: 'earliest', from: 'firm' })
  })
  test('a site’s people change what is forecast there', async () => {
    // No counter hangs there: the people are all that is known of the litres.
    const { stageId, siteId } = (await due('?media=carbon-block&text=chandlery')).rows[0] as DueRow
    const before = await rowOf(stageId)
    const { site } = (await isla.ask('GET', `/api/sites/${siteId}`)).body
    const { id: _, ...fields } = site
    expect((await isla.ask('PUT', `/api/sites/${siteId}`, { ...fields, people: 9 })).status).toBe(200)
    expect((await rowOf(stageId)).p50 < before.p50).toBe(true)
  })
})

test('the work survives a stop in the middle: what was done stays, what was not is still marked', async () => {
  const firmId = (await peek<{ firm_id: string }>(world.database, 'select firm_id from firm limit 1'))[0]?.firm_id ?? ''
  const { inFirm, now } = world.deps
  const marked = async () => Number((await peek<{ n: string }>(world.database, 'select count(*) as n from stale_stage'))[0]?.n)
  await inFirm(firmId, (scope) =>
    scope.query(`insert into stale_stage (firm_id, stage_id, marked_at) select firm_id, id, test_clock() from stage where firm_id = $1`),
  )
  const all = await marked()
  expect(all).toBeGreaterThan(20)
  const broken = refreshFirm({ inFirm, now, summarise: () => Promise.reject(new Error('killed')) }, firmId)
  await expect(broken).rejects.toThrow('killed')
  expect(await marked()).toBe(all)
  expect(await refreshFirm({ inFirm, now, summarise: async (stages) => stages.map(summarise) }, firmId, () => false)).toBe(0)
  expect(await refreshFirm({ inFirm, now, summarise: async (stages) => stages.map(summarise) }, firmId)).toBe(all)
  expect(await marked()).toBe(0)
})

describe('the catalogue', () => {
  const catalogue = async (partNumber: string) => {
    const { parts } = (await isla.ask('GET', '/api/shelf')).body
    return parts.find((part: { partNumber: string }) => part.partNumber === partNumber)
  }
  const edit = async (partNumber: string, change: object, who = isla) => {
    const { id, media: _, housing: __, ...fields } = await catalogue(partNumber)
    return who.ask('PUT', `/api/parts/${id}`, { ...fields, fittedToo: false, ...change })
  }
  const inService = async () => (await due('?text=LT-FL-10&limit=1000')).rows

  test('a changed life leaves fitted parts as they were rated; a corrected one moves them, and the book has both', async () => {
    const before = await inService()
    expect(before.length).toBeGreaterThan(1)
    const { rated } = await catalogue('LT-FL-10')
    expect((await edit('LT-FL-10', { rated: { ...rated, days: 500 } })).body.corrected).toBe(0)
    expect((await inService()).map(({ p50 }) => p50)).toEqual(before.map(({ p50 }) => p50))
    await edit('LT-FL-10', { rated })
    const facts = async () =>
      Number((await peek<{ n: string }>(world.database, `select count(*) as n from fact_part_fitted where part_number = 'LT-FL-10'`))[0]?.n)
    const had = await facts()
    const answer = await edit('LT-FL-10', { rated: { ...rated, days: 90 }, fittedToo: true })
    expect(answer.body.corrected).toBeGreaterThanOrEqual(before.length)
    expect(await facts()).toBe(had + answer.body.corrected)
    const after = new Map((await inService()).map((row) => [row.stageId, row]))
    for (const row of before) expect((after.get(row.stageId)?.due.due ?? '') < row.due.due).toBe(true)
  })
  test('only who may change ratings changes them; a number that is taken is said at its field; an old version is refused with the new one', async () => {
    expect((await edit('BRK-SED-10', {}, tam)).status).toBe(403)
    const taken = await edit('BRK-SED-10', { partNumber: 'BRK-SED-20' })
    expect([taken.status, taken.body.error.fields[0].path]).toEqual([409, 'partNumber'])
    const { version } = await catalogue('BRK-SED-10')
    expect((await edit('BRK-SED-10', { priceMinor: 1000 })).status).toBe(200)
    const stale = await edit('BRK-SED-10', { version })
    expect([stale.status, stale.body.error.code, stale.body.error.current.priceMinor]).toEqual([409, 'STALE_VERSION', 1000])
  })
  test('a part is added once', async () => {
    const { rated } = await catalogue('BRK-SED-10')
    const part = {
      id: uuidv7(),
      partNumber: 'LT-NEW-1',
      maker: 'Loom & Tarn',
      name: 'New one',
      media: 'sediment',
      housing: 'sump-small',
      rated,
      priceMinor: 700,
    }
    expect((await isla.ask('POST', '/api/parts', part)).status).toBe(200)
    expect((await isla.ask('POST', '/api/parts', { ...part, id: uuidv7() })).body.error.fields[0].path).toBe('partNumber')
    expect((await isla.ask('POST', '/api/parts', { ...part, id: uuidv7(), rated: { ...rated, days: -3 }, partNumber: 'x' })).status).toBe(
      400,
    )
  })
})
