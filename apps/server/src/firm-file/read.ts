import { createHash } from 'node:crypto'
import { createInterface } from 'node:readline'
import { PassThrough, type Readable } from 'node:stream'
import { buffer, text } from 'node:stream/consumers'
import { say } from '@evenround/core/words'
import type { DataSource, EntityManager } from 'typeorm'
import { columnsOf } from './columns'
import { FORMAT_VERSION, type Manifest, manifestSchema } from './manifest'
import { CARRIED_TABLES, PICTURES } from './tables'
import { type OpenZip, openZip } from './zip'

const ROWS_A_STATEMENT = 500
/** The list is read into memory; a list longer than this is none of ours. */
const MOST_OF_MANIFEST = 1_000_000

/** The file cannot be brought in, and why, for the one who chose it. */
export class FirmFileRefused extends Error {}

/** What was brought in. */
export interface BroughtIn {
  firmId: string
  firm: string
  rows: number
  pictures: number
  owners: { personId: string; name: string; email: string }[]
}

async function manifestOf(zip: OpenZip): Promise<Manifest> {
  if (!zip.names.includes('manifest.json')) throw new FirmFileRefused(say`This ZIP is no firm’s file: it has no manifest.json.`)
  const said = await text(await zip.read('manifest.json'))
  let parsed: unknown
  try {
    parsed = said.length > MOST_OF_MANIFEST ? null : JSON.parse(said)
  } catch {
    parsed = null
  }
  const manifest = manifestSchema.safeParse(parsed)
  if (!manifest.success) throw new FirmFileRefused(say`This ZIP is no firm’s file: its manifest.json is not ours.`)
  if (manifest.data.version > FORMAT_VERSION)
    throw new FirmFileRefused(say`This file was made by a newer version of the program: bring this installation up to date first.`)
  const unknown = Object.keys(manifest.data.tables).filter((table) => !CARRIED_TABLES.includes(table))
  if (unknown.length > 0)
    throw new FirmFileRefused(
      say`This file has ${unknown.join(', ')}, which this version does not know: bring this installation up to date first.`,
    )
  return manifest.data
}

/** Tables so ordered that a row's referents stand before it. */
async function inOrder(manager: EntityManager, tables: readonly string[]): Promise<string[]> {
  const refers: { of: string; to: string }[] = await manager.query(
    `select c.conrelid::regclass::text as of, c.confrelid::regclass::text as to from pg_constraint c where c.contype = 'f' and c.conrelid <> c.confrelid`,
  )
  const left = new Set(tables)
  const ordered: string[] = []
  while (left.size > 0) {
    const free = [...left].filter((table) => !refers.some(({ of, to }) => of === table && left.has(to)))
    if (free.length === 0) throw new Error(`${[...left].join(', ')} refer to each other in a circle`)
    for (const table of free) {
      ordered.push(table)
      left.delete(table)
    }
  }
  return ordered
}

async function bringTable(
  manager: EntityManager,
  zip: OpenZip,
  table: string,
  { rows, sha256 }: Manifest['tables'][string],
): Promise<void> {
  const damaged = (): FirmFileRefused => new FirmFileRefused(say`The file is damaged: data/${table}.jsonl is not what was written.`)
  const name = `data/${table}.jsonl`
  if (!zip.names.includes(name)) throw damaged()
  const known = (await columnsOf(manager, table)).map((column) => column.name)
  const hash = createHash('sha256')
  const source = await zip.read(name)
  const lines = createInterface({ input: hashed(source, hash), crlfDelay: Number.POSITIVE_INFINITY })
  let columns: string[] | null = null
  let count = 0
  let some: string[] = []
  const write = async (): Promise<void> => {
    if (some.length === 0 || columns === null) return
    const names = columns.join(', ')
    await manager.query(`insert into ${table} (${names}) select ${names} from json_populate_recordset(null::${table}, $1::json)`, [
      `[${some.join(',')}]`,
    ])
    some = []
  }
  for await (const line of lines) {
    if (line === '') continue
    const row = inToday(table, line)
    columns ??= Object.keys(JSON.parse(row) as object).filter((column) => known.includes(column))
    some.push(row)
    count += 1
    if (some.length === ROWS_A_STATEMENT) await write()
  }
  await write()
  if (count !== rows || hash.digest('hex') !== sha256) throw damaged()
}

/** Columns that files of earlier versions call otherwise. */
const RENAMED: Readonly<Record<string, Readonly<Record<string, string>>>> = { stage_forecast: { alive: 'survival' } }

/** A line of a file in today's columns. */
function inToday(table: string, line: string): string {
  const renamed = RENAMED[table]
  // A file of today is handed on as it is.
  if (renamed === undefined || !Object.keys(renamed).some((column) => line.includes(`"${column}":`))) return line
  const row = JSON.parse(line) as Record<string, unknown>
  return JSON.stringify(Object.fromEntries(Object.entries(row).map(([column, value]) => [renamed[column] ?? column, value])))
}

function hashed(source: Readable, hash: ReturnType<typeof createHash>): Readable {
  const through = new PassThrough()
  source.on('data', (chunk: Buffer) => hash.update(chunk))
  source.once('error', (error) => through.destroy(error))
  return source.pipe(through)
}

async function bringPictures(manager: EntityManager, zip: OpenZip, firmId: string): Promise<number> {
  const photos: { id: string }[] = await manager.query('select id from photo where firm_id = $1', [firmId])
  const there = new Set(zip.names)
  let count = 0
  for (const { id } of photos) {
    const name = `photos/${id}.jpg`
    if (!there.has(name)) continue
    const bytes = await buffer(await zip.read(name))
    await manager.query(`insert into ${PICTURES} (firm_id, photo_id, bytes) values ($1, $2, $3)`, [firmId, id, bytes])
    count += 1
  }
  return count
}

/** People sign in by their e-mail again, each once they have opened a link and chosen a password. */
async function openDoors(manager: EntityManager, firmId: string, now: Date): Promise<void> {
  await manager.query(
    `insert into auth_user (firm_id, id, name, email, email_verified, created_at, updated_at)
     select firm_id, id, name, email, true, $2, $2 from person where firm_id = $1`,
    [firmId, now],
  )
}

/**
 * Brings a firm's file into this installation: all of it or, where anything is wrong, nothing. Rejects with `FirmFileRefused` where the
 * file is none of ours, damaged or newer, where the firm is here already, or where one of its people signs in to another firm here.
 */
export async function bringFirmIn(source: DataSource, path: string, now: Date): Promise<BroughtIn> {
  const zip = await openZip(path).catch(() => {
    throw new FirmFileRefused(say`This is no ZIP that can be read.`)
  })
  try {
    const { firmId, firm, tables, pictures } = await manifestOf(zip)
    return await source.transaction(async (manager) => {
      await manager.query(`select set_config('app.firm_id', $1, true), set_config('app.door', '', true)`, [firmId])
      const here: unknown[] = await manager.query('select 1 from firm where firm_id = $1', [firmId])
      if (here.length > 0) throw new FirmFileRefused(say`${firm} is in this installation already.`)
      let rows = 0
      for (const table of await inOrder(manager, Object.keys(tables))) {
        const listed = tables[table] as Manifest['tables'][string]
        await bringTable(manager, zip, table, listed)
        rows += listed.rows
      }
      if ((await bringPictures(manager, zip, firmId)) !== pictures)
        throw new FirmFileRefused(say`The file is damaged: pictures are missing from it.`)
      await openDoors(manager, firmId, now)
      const owners: BroughtIn['owners'] = await manager.query(
        `select id as "personId", name, email from person where firm_id = $1 and role = 'owner' and active order by name`,
        [firmId],
      )
      return { firmId, firm, rows, pictures, owners }
    })
  } catch (error) {
    if (isDouble(error, 'firm')) throw new FirmFileRefused(say`The firm is in this installation already.`)
    if (isDouble(error, 'auth_user'))
      throw new FirmFileRefused(say`One of its people signs in to another firm of this installation with the same e-mail.`)
    throw error
  } finally {
    zip.close()
  }
}

const isDouble = (error: unknown, table: string): boolean =>
  error instanceof Error && Reflect.get(error, 'code') === '23505' && Reflect.get(error, 'table') === table
