import { mkdtempSync, rmSync } from 'node:fs'
import { writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { text } from 'node:stream/consumers'
import Papa from 'papaparse'
import type { DataSource } from 'typeorm'
import yazl from 'yazl'
import { dataSource } from '../db/data-source'
import { DEMO_FIRM_ID } from '../demo/load'
import { peek, type TestDatabase, testDatabase } from '../testing/database'
import { manifestSchema } from './manifest'
import { papersOfFirm } from './papers'
import { bringFirmIn } from './read'
import { CARRIED, CARRIED_TABLES } from './tables'
import { writeFirmFile } from './write'
import { type OpenZip, openZip } from './zip'

const AT = new Date('2026-11-25T12:00:00Z')
const folder = mkdtempSync(join(tmpdir(), 'firm-file-'))
const file = join(folder, 'demo.zip')
let there: TestDatabase
let source: DataSource
let here: TestDatabase
let target: DataSource
let zip: OpenZip
beforeAll(async () => {
  there = await testDatabase('demo')
  source = dataSource({ url: there.appUrl, poolSize: 2 })
  await source.initialize()
  here = await testDatabase('empty')
  target = dataSource({ url: here.appUrl, poolSize: 2 })
  await target.initialize()
  await source.transaction(async (manager) => {
    await manager.query(`select set_config('app.firm_id', $1, true)`, [DEMO_FIRM_ID])
    const [photo] = await manager.query(
      `insert into photo (firm_id, id, site_id, visit_id, stage_id, person_id, taken_at, arrived_at, width, height)
       select f.firm_id, gen_random_uuid(), f.site_id, f.visit_id, f.stage_id, f.person_id, f.at, f.at, 2, 2 from fact_part_removed f limit 1 returning id`,
    )
    await manager.query('insert into photo_bytes (firm_id, photo_id, bytes) values ($1, $2, $3)', [
      DEMO_FIRM_ID,
      photo.id,
      Buffer.from([255, 216, 0, 1, 2]),
    ])
  })
  await writeFirmFile(source, DEMO_FIRM_ID, file, AT, papersOfFirm)
  zip = await openZip(file)
})
afterAll(async () => {
  zip.close()
  await source.destroy()
  await target.destroy()
  await there.drop()
  await here.drop()
  rmSync(folder, { recursive: true })
})

const entry = async (name: string): Promise<string> => text(await zip.read(name))
/** Every row of the firm as the database writes it, in no order. */
const fingerprint = async (database: TestDatabase, table: string): Promise<unknown> =>
  peek(
    database,
    `select count(*)::int as rows, md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from ${table} t where firm_id = $1`,
    [DEMO_FIRM_ID],
  )

test('every table with rows of a firm is carried, or named as left behind with the reason', async () => {
  const tables = await peek<{ name: string }>(
    there,
    `select c.relname as name from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'firm_id' and not a.attisdropped
     where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition and c.relname <> 'search_entry' order by 1`,
  )
  // What search finds by is written by the tables themselves as their rows come in.
  expect(tables.map(({ name }) => name)).toEqual(Object.keys(CARRIED).sort())
})

test('an empty installation has the same firm from it, row by row, and its people sign in by links alone', async () => {
  const brought = await bringFirmIn(target, file, AT)
  expect(brought.firm).toBe('Fennick & Daughter')
  expect(brought.owners.map(({ email }) => email)).toEqual(['isla@fennick.example'])
  for (const table of CARRIED_TABLES) {
    // A photo's bytes are compared like any other row.
    expect({ table, is: await fingerprint(here, table) }).toEqual({ table, is: await fingerprint(there, table) })
  }
  expect(await peek(here, 'select 1 from auth_account')).toEqual([])
  const [users] = await peek<{ same: boolean }>(here, 'select count(*) = (select count(*) from person) as same from auth_user')
  expect(users?.same).toBe(true)
  const found = await peek<{ n: number }>(here, 'select count(*)::int as n from search_entry')
  expect(found[0]?.n).toBeGreaterThan(100)
  await expect(bringFirmIn(target, file, AT)).rejects.toThrow('is in this installation already')
})

test('the file says what is in it: a manifest, a schema for each column, the same rows as CSV, the sites’ past in words', async () => {
  const manifest = manifestSchema.parse(JSON.parse(await entry('manifest.json')))
  expect(manifest).toMatchObject({ firmId: DEMO_FIRM_ID, madeAt: AT.toISOString(), pictures: 1 })
  const [counted] = await peek<{ n: number }>(there, 'select count(*)::int as n from fact_tds_reading')
  expect(manifest.tables.fact_tds_reading?.rows).toBe(counted?.n)
  const schema = JSON.parse(await entry('schemas/fact_tds_reading.schema.json'))
  expect(schema.properties).toMatchObject({ tds_mg_l: { type: 'number' }, at: { type: 'string', format: 'date-time' } })
  expect(schema.properties.temperature_c).toEqual({ type: ['number', 'null'] })
  const csv = Papa.parse<Record<string, string>>((await entry('csv/site.csv')).replace(/^\uFEFF/, ''), {
    header: true,
    skipEmptyLines: true,
  })
  const lines = (await entry('data/site.jsonl')).trim().split('\n')
  expect([csv.data.length, csv.errors]).toEqual([lines.length, []])
  expect(csv.data.map(({ name }) => name)).toContain('Net loft cottage')
  const paper = zip.names.find((name) => name.startsWith('papers/Net loft cottage '))
  const past = await entry(paper ?? '')
  expect(past).toMatch(/^Net loft cottage\n=+\nAddress: /)
  expect(past).toContain('2024-10-26 09:30  Visit begun, by Tam Orrin\n2024-10-26 09:33  TDS before the work, untreated: 210 mg/L\n')
  expect(past).toContain('2025-09-20 09:46  Part taken out, as expected\n')
  expect(past).toContain('Part fitted at 1: BRK-SED-10 (1 · BRK-SED-10 · 20/09/25 · TO)\n')
  expect(past).toContain('2025-09-20 10:22  Visit ended, done. The customer was told.\n')
  expect(await entry('README.txt')).toContain('Customers’ sites: address, position, contact, access, source.')
})

test('no password, session or invitation is in it', async () => {
  expect(zip.names.filter((name) => /auth_|person_link|firm_file/.test(name))).toEqual([])
  for (const name of zip.names.filter((one) => one.startsWith('data/'))) expect(await entry(name)).not.toMatch(/\$argon2|"password"/)
})

async function zipOf(entries: Record<string, string>): Promise<string> {
  const made = new yazl.ZipFile()
  for (const [name, content] of Object.entries(entries)) made.addBuffer(Buffer.from(content), name)
  made.end()
  const chunks: Buffer[] = []
  for await (const chunk of made.outputStream) chunks.push(chunk as Buffer)
  const path = join(folder, 'other.zip')
  await writeFile(path, Buffer.concat(chunks))
  return path
}

test('what is no firm’s file, newer, damaged or of two firms is refused in words, and nothing of it stays', async () => {
  const bare = await testDatabase('empty')
  const empty = dataSource({ url: bare.appUrl, poolSize: 2 })
  await empty.initialize()
  const firmLine = (await entry('data/firm.jsonl')).trim()
  const stranger = firmLine.replaceAll(DEMO_FIRM_ID, '0193c0de-0000-7000-8000-000000000001')
  const { createHash } = await import('node:crypto')
  const listed = (content: string, rows = 1) => ({ rows, sha256: createHash('sha256').update(content).digest('hex') })
  const manifest = (tables: object, more: object = {}) =>
    JSON.stringify({
      format: 'even-round-firm',
      version: 1,
      firmId: DEMO_FIRM_ID,
      firm: 'Fennick',
      madeAt: AT.toISOString(),
      tables,
      pictures: 0,
      ...more,
    })
  await writeFile(join(folder, 'text.zip'), 'this is text')
  const cases: [string, RegExp][] = [
    [join(folder, 'text.zip'), /no ZIP that can be read/],
    [await zipOf({ 'notes.txt': 'hello' }), /no manifest\.json/],
  ]
  for (const [path, why] of cases) await expect(bringFirmIn(empty, path, AT)).rejects.toThrow(why)
  const refused = async (entries: Record<string, string>): Promise<string> =>
    bringFirmIn(empty, await zipOf(entries), AT).then(
      () => 'taken',
      (error: Error) => error.message,
    )
  expect(await refused({ 'manifest.json': '{"format":"other"}' })).toMatch(/manifest\.json is not ours/)
  expect(await refused({ 'manifest.json': manifest({}, { version: 2 }) })).toMatch(/newer version/)
  expect(await refused({ 'manifest.json': manifest({ auth_account: listed('') }) })).toMatch(
    /auth_account, which this version does not know/,
  )
  const changed = {
    'manifest.json': manifest({ firm: listed(firmLine) }),
    'data/firm.jsonl': firmLine.replace('Fennick & Daughter', 'Otterbank'),
  }
  expect(await refused(changed)).toMatch(/damaged: data\/firm\.jsonl/)
  expect(await refused({ 'manifest.json': manifest({ firm: listed(stranger) }), 'data/firm.jsonl': stranger })).toMatch(
    /row-level security/,
  )
  for (const table of CARRIED_TABLES) expect({ table, rows: await peek(bare, `select 1 from ${table}`) }).toEqual({ table, rows: [] })
  await empty.destroy()
  await bare.drop()
})

test('a file of an earlier version comes in with the columns it called otherwise and without those it did not have', async () => {
  const earlier = await testDatabase('empty')
  const installation = dataSource({ url: earlier.appUrl, poolSize: 2 })
  await installation.initialize()
  const { createHash } = await import('node:crypto')
  // Its pictures are left out: they are none of the matter.
  const manifest = { ...manifestSchema.parse(JSON.parse(await entry('manifest.json'))), pictures: 0 }
  const entries: Record<string, string> = {}
  for (const name of zip.names.filter((one) => one.startsWith('data/') && one.endsWith('.jsonl'))) entries[name] = await entry(name)
  const rewrite = (table: string, change: (row: Record<string, unknown>) => Record<string, unknown>): void => {
    const name = `data/${table}.jsonl`
    const lines = (entries[name] ?? '').trim().split('\n')
    const content = `${lines.map((line) => JSON.stringify(change(JSON.parse(line)))).join('\n')}\n`
    entries[name] = content
    manifest.tables[table] = { rows: lines.length, sha256: createHash('sha256').update(content).digest('hex') }
  }
  rewrite('stage_forecast', ({ survival, ...row }) => ({ ...row, alive: survival }))
  rewrite('system', ({ serial_no: _, ...row }) => row)
  await bringFirmIn(installation, await zipOf({ 'manifest.json': JSON.stringify(manifest), ...entries }), AT)
  for (const table of ['stage_forecast', 'system', 'site', 'fact_part_fitted'])
    expect({ table, is: await fingerprint(earlier, table) }).toEqual({ table, is: await fingerprint(there, table) })
  await installation.destroy()
  await earlier.drop()
})
