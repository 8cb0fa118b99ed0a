import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import type { VisitPageDto } from '@evenround/contract/book'
import type { DuePage } from '@evenround/contract/due'
import type { SitePageDto } from '@evenround/contract/site'
import { demoId } from '../../demo/ids'
import { DEMO_FIRM_ID } from '../../demo/load'
import { openZip } from '../../firm-file/zip'
import { peek } from '../../testing/database'
import { freshRoundOf } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
let tam: Person
const SITE = demoId('site', 'net-loft')
const folder = mkdtempSync(join(tmpdir(), 'leaving-'))
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(async () => {
  await world.close()
  rmSync(folder, { recursive: true })
})

const names = async (): Promise<string[]> => (await isla.ask('GET', '/api/sites')).body.sites.map(({ name }: { name: string }) => name)
const dueHere = async (site: string): Promise<number> =>
  ((await isla.ask('GET', '/api/due?limit=1000')).body as DuePage).rows.filter((row) => row.siteId === site).length
/** A visit of the site as the book shows it. */
async function visitOf(site: string): Promise<VisitPageDto> {
  const [row] = await peek<{ visit_id: string }>(
    world.database,
    'select visit_id from fact_part_fitted where site_id = $1 order by at limit 1',
    [site],
  )
  return (await isla.ask('GET', `/api/visits/${row?.visit_id}`)).body
}
/** Every table that has these words anywhere in a row. */
async function tablesWith(words: readonly string[]): Promise<string[]> {
  const tables = await peek<{ name: string }>(
    world.database,
    `select c.relname as name from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition order by 1`,
  )
  const found: string[] = []
  for (const { name } of tables) {
    const rows = await peek(
      world.database,
      `select 1 from ${name} t where exists (select 1 from unnest($1::text[]) w where lower(t::text) like '%' || lower(w) || '%') limit 1`,
      [words],
    )
    if (rows.length > 0) found.push(name)
  }
  return found
}

test('a customer who left is on no screen and in no plan; the past stays in the book, and they can come back', async () => {
  const site = demoId('site', 'weaving-mill')
  const [before, due] = [await names(), await dueHere(site)]
  expect([before.includes('Weaving mill'), due > 0]).toEqual([true, true])
  expect((await tam.ask('POST', `/api/sites/${site}/leave`)).status).toBe(403)
  expect((await isla.ask('POST', `/api/sites/${site}/leave`)).status).toBe(200)
  expect([(await names()).includes('Weaving mill'), await dueHere(site)]).toEqual([false, 0])
  expect((await isla.ask('GET', `/api/sites/${site}`)).status).toBe(404)
  const planned = await peek(
    world.database,
    `select 1 from stop where site_id = $1 and day >= to_char(test_clock(), 'YYYY-MM-DD') and id not in (select stop_id from fact_visit_begun where stop_id is not null)`,
    [site],
  )
  expect(planned).toEqual([])
  const past = await visitOf(site)
  expect([past.visit?.siteName, past.facts.length > 2, past.system?.stages.length]).toEqual(['Weaving mill', true, 2])
  expect((await isla.ask('GET', '/api/sites-left')).body.sites).toMatchObject([{ id: site, name: 'Weaving mill' }])
  expect((await isla.ask('POST', `/api/sites/${site}/come-back`)).status).toBe(200)
  expect([await names(), await dueHere(site)]).toEqual([before, due])
  expect((await isla.ask('POST', `/api/sites/${site}/come-back`)).status).toBe(404)
})

test('the customer has all that is kept about them: in words, as data, with the photos; it is recorded', async () => {
  const answer = await world.app.request(`/api/sites/${SITE}/customer`, { headers: { cookie: isla.cookie } })
  expect(answer.headers.get('content-type')).toBe('application/zip')
  const path = join(folder, 'customer.zip')
  writeFileSync(path, Buffer.from(await answer.arrayBuffer()))
  const zip = await openZip(path)
  const paper = zip.names.find((name) => name.startsWith('Net loft cottage '))
  expect(await text(await zip.read(paper ?? ''))).toContain('Contact: Ann Tolliver, Skellan 231')
  const data = JSON.parse(await text(await zip.read('data.json'))) as Record<string, { id?: string; site_id?: string }[]>
  expect(data.site).toMatchObject([{ id: SITE, contact: 'Ann Tolliver' }])
  const [counted] = await peek<{ n: number }>(world.database, 'select count(*)::int as n from fact_tds_reading where site_id = $1', [SITE])
  expect(data.fact_tds_reading).toHaveLength(counted?.n ?? -1)
  expect(Object.values(data).flatMap((rows) => rows.map((row) => row.site_id ?? SITE))).toEqual(
    expect.not.arrayContaining([demoId('site', 'weaving-mill')]),
  )
  zip.close()
  expect((await tam.ask('GET', `/api/sites/${SITE}/customer`)).status).toBe(403)
  expect((await isla.ask('GET', '/api/audit')).body.deeds[0]).toMatchObject({ what: 'customer-exported', person: 'Isla Fennick' })
})

test('a customer is erased: their name stands nowhere any more, every fact of the work still does', async () => {
  // All the places a name gets to: a list, notes, a mended line, a plan that was published, search.
  const { site } = (await isla.ask('GET', `/api/sites/${SITE}`)).body as SitePageDto
  const { id, version, ...fields } = site
  const put = await isla.ask('PUT', `/api/sites/${id}`, {
    ...fields,
    version,
    street: '7 Smoke Lane',
    email: 'ann@tolliver.example',
    contacts: [{ name: 'Bram Tolliver', role: 'son', phone: 'Skellan 499', email: '' }],
  })
  expect(put.status).toBe(200)
  await freshRoundOf(isla)
  await world.deps.inFirm(DEMO_FIRM_ID, async (scope) => {
    await scope.query(
      `insert into intake (firm_id, id, name, person_id, at, source, columns, date_order, counts)
       values ($1, gen_random_uuid(), 'old list', $2, now(), $3, '{}', 'dmy', '{}')`,
      [demoId('person', 'isla'), 'name,phone\nNet loft cottage,Skellan 231\nSmokehouse,Quay 7\n'],
    )
    await scope.query(
      `insert into fact_visit_finished (firm_id, id, at, arrived_at, person_id, device_id, seq, site_id, visit_id, voided, flags, outcome, customer_told, note)
       select firm_id, gen_random_uuid(), at, arrived_at, person_id, device_id, seq, site_id, gen_random_uuid(), false, flags, 'done', true, 'Ann Tolliver pays in cash'
       from fact_visit_finished where firm_id = $1 and site_id = $2 limit 1`,
      [SITE],
    )
    await scope.query(
      `insert into fact_site_mended (firm_id, id, at, arrived_at, person_id, device_id, seq, site_id, visit_id, voided, flags, field, value)
       select firm_id, gen_random_uuid(), at, arrived_at, person_id, device_id, seq, site_id, visit_id, false, flags, 'phone', 'Ann Tolliver’s sister 232'
       from fact_visit_finished where firm_id = $1 and site_id = $2 limit 1`,
      [SITE],
    )
  })
  const words = [
    'Net loft cottage',
    'Ann Tolliver',
    'Skellan 231',
    '7 Smoke Lane',
    'ann@tolliver.example',
    'mind the third step',
    'Bram Tolliver',
    'Skellan 499',
  ]
  expect(await tablesWith(words)).toEqual(
    expect.arrayContaining(['fact_site_mended', 'fact_visit_finished', 'intake', 'search_entry', 'site']),
  )
  const counts = () =>
    peek<{ n: number }>(
      world.database,
      `select count(*)::int as n from fact_receipt union all select count(*)::int from fact_part_fitted where site_id = $1
       union all select count(*)::int from fact_visit_finished where site_id = $1 union all select count(*)::int from fact_tds_reading where site_id = $1`,
      [SITE],
    )
  const before = await counts()
  expect((await tam.ask('POST', `/api/sites/${SITE}/erase`, { name: 'Net loft cottage' })).status).toBe(403)
  const wrong = await isla.ask('POST', `/api/sites/${SITE}/erase`, { name: 'Net loft' })
  expect([wrong.status, wrong.body.error.fields]).toEqual([400, [{ path: 'name', message: 'not the name of the site' }]])
  expect((await isla.ask('POST', `/api/sites/${SITE}/erase`, { name: 'Net loft cottage' })).status).toBe(200)
  expect(await tablesWith(words)).toEqual([])
  expect(await counts()).toEqual(before)
  expect(await names()).not.toContain('Net loft cottage')
  const [list] = await peek<{ source: string }>(world.database, `select source from intake where name = 'old list'`)
  expect(list?.source).toBe('name,phone\nSmokehouse,Quay 7\n')
  const past = await visitOf(SITE)
  expect(past.visit?.siteName).toBe(`Erased customer ${SITE.slice(-6).toUpperCase()}`)
  expect(past.facts.length).toBeGreaterThan(5)
  const [deed] = (await isla.ask('GET', '/api/audit')).body.deeds
  expect(deed).toMatchObject({ what: 'customer-erased', person: 'Isla Fennick' })
  expect((await isla.ask('POST', `/api/sites/${SITE}/come-back`)).status).toBe(404)
  expect((await isla.ask('GET', '/api/round')).status).toBe(200)
  // Whoever erases may change no other fact.
  await expect(
    world.deps.inFirm(DEMO_FIRM_ID, (scope) => scope.query(`update fact_visit_finished set note = 'changed' where firm_id = $1`)),
  ).rejects.toThrow(/append-only|permission denied/)
})
