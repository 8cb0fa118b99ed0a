import type { LifeDto } from '@evenround/contract/book'
import type { DuePage } from '@evenround/contract/due'
import type { SitePageDto } from '@evenround/contract/site'
import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { demoId } from '../../demo/ids'
import { peek } from '../../testing/database'
import { batch, begun, ended, fitted, measured } from '../../testing/facts'
import { freshRoundOf } from '../../testing/round'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
let tam: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(() => world.close())

const HOUR = 3_600_000
const ago = (hours: number): string => new Date(world.clock.now.getTime() - hours * HOUR).toISOString()
const page = async (site: string): Promise<SitePageDto> => (await isla.ask('GET', `/api/sites/${site}`)).body
const lines = async (site: string): Promise<LifeDto['lines']> => (await isla.ask('GET', `/api/sites/${site}/life`)).body.lines
const results = (body: { results: { status: string; reason?: string }[] }): string[] =>
  body.results.map(({ status, reason }) => (reason ? `${status}: ${reason}` : status))
/** Every table that says at which site something is, and its rows there as they read without the site and the version. */
async function standsAt(site: string): Promise<Map<string, string[]>> {
  const tables = await peek<{ name: string }>(
    world.database,
    `select c.relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'site_id' and not a.attisdropped
     where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition and c.relname <> 'search_entry'`,
  )
  const found = new Map<string, string[]>()
  for (const { name } of tables) {
    const rows = await peek<{ row: string }>(
      world.database,
      `select (to_jsonb(t) - 'site_id' - 'version')::text as row from ${name} t where t.site_id = $1 order by 1`,
      [site],
    )
    found.set(
      name,
      rows.map(({ row }) => row),
    )
  }
  return found
}
const siteOf = async (visitId: string): Promise<string[]> =>
  (
    await peek<{ site_id: string }>(
      world.database,
      `select distinct site_id from (select site_id from fact_visit_begun where visit_id = $1 union all select site_id from fact_tds_reading where visit_id = $1
       union all select site_id from fact_part_fitted where visit_id = $1 union all select site_id from fact_visit_finished where visit_id = $1) f`,
      [visitId],
    )
  ).map(({ site_id }) => site_id)
/** A visit as a phone would send it that still has the system at this site. */
function visitOf(siteId: string, systemId: string, stageId: string, at: string): { visitId: string; facts: Fact[] } {
  const place = { siteId, systemId, visitId: uuidv7() }
  const facts = [begun(place, { at }), measured(place, 210, { at }), fitted(place, stageId, { at }), ended(place, { at })]
  return { visitId: place.visitId, facts }
}

test('two sites merged: all that stood at the one stands at the other, word for word, and what phones still send under the old name goes there too', async () => {
  const [from, into] = [demoId('site', 'weaving-mill'), demoId('site', 'net-loft')]
  const [old, kept] = [await page(from), await page(into)]
  const [system] = old.systems
  const stage = system?.stages[0]
  if (!system || !stage) throw new Error('the weaving mill has a system')
  expect(old.holds).toHaveLength(1)
  const early = visitOf(from, system.id, stage.id, ago(30))
  expect(results((await tam.ask('POST', '/api/facts', batch(...early.facts))).body)).toEqual(Array(4).fill('accepted'))
  await freshRoundOf(isla)
  const [before, there] = [await standsAt(from), await standsAt(into)]
  expect((await tam.ask('POST', `/api/sites/${into}/merge`, { from })).status).toBe(403)
  expect((await isla.ask('POST', `/api/sites/${into}/merge`, { from: into })).status).toBe(400)
  expect((await isla.ask('POST', `/api/sites/${into}/merge`, { from })).status).toBe(200)

  const [left, now] = [await standsAt(from), await standsAt(into)]
  // What says itself that it was merged names the old site; nothing else does.
  expect([...left.values()].flat()).toEqual([])
  for (const [table, rows] of before) {
    const both = [...rows, ...(there.get(table) ?? [])].sort(byText)
    // Forecasts are recomputed from what is drunk at the place they are at now.
    if (table === 'stage_forecast') expect(now.get(table)).toHaveLength(both.length)
    else expect([table, now.get(table)]).toEqual([table, both])
  }
  const joined = await page(from)
  expect([joined.site.id, joined.site.name, joined.systems.length]).toEqual([
    into,
    kept.site.name,
    kept.systems.length + old.systems.length,
  ])
  expect(joined.holds.map(({ id }) => id)).toEqual(expect.arrayContaining(old.holds.map(({ id }) => id)))
  expect(joined.visits.map(({ visitId }) => visitId)).toContain(early.visitId)
  expect(joined.site.contacts.map(({ name }) => name)).toContain(old.site.contact)
  expect((await isla.ask('GET', '/api/sites')).body.sites.map(({ id }: { id: string }) => id)).not.toContain(from)
  expect((await isla.ask('GET', `/api/sites-left`)).body.sites).toEqual([])
  expect((await lines(from))[0]?.text).toMatch(/^Weaving mill was merged into this site: it is the same place \(Isla Fennick\)$/)

  // The same facts once more are the same facts; a visit that comes late is filed where the others are.
  expect(results((await tam.ask('POST', '/api/facts', batch(...early.facts))).body)).toEqual(Array(4).fill('already-had'))
  const late = visitOf(from, system.id, stage.id, ago(2))
  expect(results((await tam.ask('POST', '/api/facts', batch(...late.facts))).body)).toEqual(Array(4).fill('accepted'))
  expect(await siteOf(late.visitId)).toEqual([into])
  const hold = old.holds[0]
  const mine = { id: uuidv7(), at: ago(1), seq: 9000, siteId: from, visitId: uuidv7(), supersedes: null, voided: false }
  const lifted = { ...mine, kind: 'hold-told', holdId: hold?.id, whom: 'Foreman', how: 'telephone' }
  expect(results((await tam.ask('POST', '/api/facts', batch(lifted))).body)).toEqual(['accepted'])
  expect((await isla.ask('GET', '/api/round')).status).toBe(200)
  const found = (await isla.ask('GET', `/api/search?q=${encodeURIComponent('weaving')}`)).body
  expect(JSON.stringify(found)).not.toContain(from)
})
const byText = (a: string, b: string): number => (a < b ? -1 : a > b ? 1 : 0)

test('a customer erased takes along the name of what was merged into it', async () => {
  const [from, into] = [demoId('site', 'nursery'), demoId('site', 'lighthouse')]
  const [old, kept] = [await page(from), await page(into)]
  expect((await isla.ask('POST', `/api/sites/${into}/merge`, { from })).status).toBe(200)
  const name = kept.site.name
  expect((await isla.ask('POST', `/api/sites/${into}/erase`, { name })).status).toBe(200)
  const names = await peek<{ name: string; contact: string }>(world.database, 'select name, contact from site where id = any($1)', [
    [from, into],
  ])
  expect(names.map(({ name: now }) => now).sort()).toEqual([from, into].map((id) => `Erased customer ${id.slice(-6).toUpperCase()}`).sort())
  expect(names.map(({ contact }) => contact)).toEqual(['', ''])
  expect(old.site.name).not.toBe('')
})

test('a system is taken elsewhere: its past visits stay where they were made, later work is filed where it hangs; its parts and days go with it', async () => {
  const [from, to] = [demoId('site', 'chandlery'), demoId('site', 'kelp-press')]
  const old = await page(from)
  const [system] = old.systems
  const stage = system?.stages[0]
  if (!system || !stage) throw new Error('the flat has a system')
  const due = async () =>
    ((await isla.ask('GET', '/api/due?limit=1000')).body as DuePage).rows
      .filter(({ systemId }) => systemId === system.id)
      .map(({ siteId, stageId, fittedOn }) => ({ siteId, stageId, fittedOn }))
  const before = await due()
  expect(before.length).toBeGreaterThan(0)
  const open = begun({ siteId: from, systemId: system.id, visitId: uuidv7() }, { at: ago(1) })
  await tam.ask('POST', '/api/facts', batch(open))
  const move = () => isla.ask('POST', `/api/sites/${to}/systems`, { systemId: system.id, wholePast: false })
  expect([
    (await move()).status,
    (await tam.ask('POST', `/api/sites/${to}/systems`, { systemId: system.id, wholePast: false })).status,
  ]).toEqual([409, 403])
  await tam.ask('POST', '/api/facts', batch(ended({ siteId: from, systemId: system.id, visitId: open.visitId }, { at: ago(1) })))
  expect((await move()).status).toBe(200)
  expect((await move()).status).toBe(400)
  const [here, gone] = [await page(to), await page(from)]
  expect(here.systems.map(({ id }) => id)).toContain(system.id)
  expect([gone.systems.map(({ id }) => id).includes(system.id), gone.visits.length]).toEqual([false, old.visits.length + 1])
  const historyOf = ({ histories }: SitePageDto) => histories.find(({ systemId }) => systemId === system.id)?.history
  expect(historyOf(here)).toEqual(historyOf(old))
  expect(await due()).toEqual(before.map((row) => ({ ...row, siteId: to })))
  expect((await lines(to))[0]?.text).toBe(`${system.name} came here from ${old.site.name} (Isla Fennick)`)
  expect((await lines(from))[0]?.text).toBe(`${system.name} went from here to ${here.site.name} (Isla Fennick)`)

  // Two phones that were away: one had worked before it was moved, the other goes on working after.
  const [early, late] = [visitOf(from, system.id, stage.id, ago(20)), visitOf(from, system.id, stage.id, ago(-1))]
  for (const { facts } of [early, late])
    expect(results((await tam.ask('POST', '/api/facts', batch(...facts))).body)).toEqual(Array(4).fill('accepted'))
  expect([await siteOf(early.visitId), await siteOf(late.visitId)]).toEqual([[from], [to]])
})

test('a system that was only filed wrongly takes its whole past along', async () => {
  const [from, to] = [demoId('site', 'school'), demoId('site', 'hostel')]
  const [old, kept] = [await page(from), await page(to)]
  const [system] = old.systems
  const stage = system?.stages[0]
  if (!system || !stage || old.visits.length === 0) throw new Error('the school has a system with a past')
  expect((await isla.ask('POST', `/api/sites/${to}/systems`, { systemId: system.id, wholePast: true })).status).toBe(200)
  const [here, gone] = [await page(to), await page(from)]
  const own = old.visits.filter(({ systemName }) => systemName === system.name).map(({ visitId }) => visitId)
  expect(own.length).toBeGreaterThan(0)
  expect(here.visits.map(({ visitId }) => visitId)).toEqual(expect.arrayContaining(own))
  expect(gone.visits.map(({ visitId }) => visitId)).toEqual(old.visits.map(({ visitId }) => visitId).filter((id) => !own.includes(id)))
  expect(here.visits.length).toBe(kept.visits.length + own.length)
  for (const visitId of own) expect(await siteOf(visitId)).toEqual([to])
  // It never hung at the old site: work sent under it is filed here, whenever it was done.
  const late = visitOf(from, system.id, stage.id, ago(20))
  expect(results((await tam.ask('POST', '/api/facts', batch(...late.facts))).body)).toEqual(Array(4).fill('accepted'))
  expect(await siteOf(late.visitId)).toEqual([to])
})

test('sites and systems of another firm are not there', async () => {
  const other = await addFirm(world, 'mill')
  const own = demoId('site', 'school')
  expect((await isla.ask('POST', `/api/sites/${own}/merge`, { from: other.siteId })).status).toBe(404)
  expect((await isla.ask('POST', `/api/sites/${other.siteId}/merge`, { from: own })).status).toBe(404)
  expect((await isla.ask('POST', `/api/sites/${own}/systems`, { systemId: other.systemId, wholePast: true })).status).toBe(404)
  expect(await peek(world.database, 'select 1 from site where id = any($1) and gone_at is not null', [[own, other.siteId]])).toEqual([])
})

test('merging that would leave out somebody who can be asked is refused with what to do; nothing is moved', async () => {
  const [from, into] = [demoId('site', 'kelp-press'), demoId('site', 'rope-walk')]
  const contacts = (n: number, of: string) =>
    Array.from({ length: n }, (_, at) => ({ name: `${of} ${at}`, role: '', phone: '', email: '' }))
  for (const [id, n] of [
    [from, 12],
    [into, 9],
  ] as const) {
    const { id: _, ...site } = (await page(id)).site
    expect((await isla.ask('PUT', `/api/sites/${id}`, { ...site, contacts: contacts(n, id) })).status).toBe(200)
  }
  const { status, body } = await isla.ask('POST', `/api/sites/${into}/merge`, { from })
  expect(status).toBe(409)
  expect(body.error.message).toMatch(
    /^Together they have 2[12] further contacts, and .+ can keep 20\. Remove some of them first, then merge\.$/,
  )
  expect((await page(from)).site.id).toBe(from)
})
