import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import Papa from 'papaparse'
import type { DataSource, EntityManager } from 'typeorm'
import yazl from 'yazl'
import { type Column, columnsOf, schemaOf } from './columns'
import { FORMAT, FORMAT_VERSION, type Manifest } from './manifest'
import { CARRIED, CARRIED_TABLES, PICTURES } from './tables'

const ROWS_AT_ONCE = 500
const OWN = `firm_id = current_setting('app.firm_id')::uuid`

/** What goes into the file beside its tables: papers people read, by the name they lie under. */
export type Papers = (manager: EntityManager) => AsyncIterable<{ name: string; text: string }>

/** The rows of a table as the database writes them in JSON, some at a time; one cursor at a time in a transaction. */
async function* rowsOf(manager: EntityManager, table: string, columns: readonly Column[]): AsyncGenerator<string[]> {
  const names = columns.map(({ name }) => `t.${name}`).join(', ')
  await manager.query(
    `declare file_rows no scroll cursor for select row_to_json(r)::text as line from (select ${names} from ${table} t where ${OWN} order by ${columns
      .filter(({ type }) => type === 'uuid' || type === 'timestamp with time zone' || type === 'integer' || type === 'text')
      .map(({ name }) => `t.${name}`)
      .join(', ')}) r`,
  )
  try {
    for (;;) {
      const some: { line: string }[] = await manager.query(`fetch ${ROWS_AT_ONCE} from file_rows`)
      if (some.length === 0) return
      yield some.map(({ line }) => line)
    }
  } finally {
    await manager.query('close file_rows')
  }
}

async function* once(text: string): AsyncGenerator<string> {
  yield text
}

const cell = (value: unknown): unknown => (typeof value === 'object' && value !== null ? JSON.stringify(value) : value)

async function* csvOf(manager: EntityManager, table: string, columns: readonly Column[]): AsyncGenerator<string> {
  const fields = columns.map(({ name }) => name)
  yield `\uFEFF${Papa.unparse([fields])}\r\n`
  for await (const lines of rowsOf(manager, table, columns)) {
    const rows = lines.map((line) => {
      const row = JSON.parse(line) as Record<string, unknown>
      return fields.map((name) => cell(row[name]))
    })
    // A note that begins with "=" is no formula of the one who opens the file.
    yield `${Papa.unparse(rows, { escapeFormulae: true })}\r\n`
  }
}

const READ_ME = `This is all that a firm keeps in Even Round.

manifest.json   what is in here, with the number of rows and a checksum of each table
data/           each table as JSON, a row a line: an empty installation brings these in again as they are
csv/            the same rows for a spreadsheet
schemas/        what each column of a table is, as JSON Schema; units stand in the columns' names
photos/         the pictures, by their ids
papers/         each site's past in words

Passwords, sign-ins and invitations are not in here.
Times are instants with their zone; days are days of the firm. Prices are in the smallest coin of the firm's currency.

`

/**
 * Writes everything a firm keeps into one ZIP, as it stood at one instant. Rows are read some at a time.
 * Resolves with the number of rows.
 */
export async function writeFirmFile(source: DataSource, firmId: string, path: string, at: Date, papers: Papers): Promise<number> {
  return source.transaction('REPEATABLE READ', async (manager) => {
    await manager.query(`select set_config('app.firm_id', $1, true), set_config('app.door', '', true)`, [firmId])
    const [firm]: { name: string }[] = await manager.query(`select name from firm where ${OWN}`)
    if (!firm) throw new Error('no such firm')
    const zip = new yazl.ZipFile()
    const tables: Manifest['tables'] = {}
    let pictures = 0
    const written = pipeline(zip.outputStream, createWriteStream(path))
    // One after another, since they share a connection: the next is added when the one before has been read to its end.
    const add = (name: string, content: AsyncIterable<string | Buffer>, compress = true): Promise<void> =>
      new Promise((resolve, reject) => {
        const stream = Readable.from(content, { objectMode: false })
        stream.once('end', resolve)
        stream.once('error', reject)
        zip.addReadStream(stream, name, { compress, mtime: at })
      })
    const write = async (): Promise<void> => {
      zip.addBuffer(Buffer.from(READ_ME + described()), 'README.txt', { mtime: at })
      for (const table of CARRIED_TABLES.filter((name) => name !== PICTURES)) {
        const columns = await columnsOf(manager, table)
        const hash = createHash('sha256')
        let rows = 0
        const lines = async function* (): AsyncGenerator<string> {
          for await (const some of rowsOf(manager, table, columns)) {
            const text = `${some.join('\n')}\n`
            hash.update(text)
            rows += some.length
            yield text
          }
        }
        await add(`data/${table}.jsonl`, lines())
        await add(`csv/${table}.csv`, csvOf(manager, table, columns))
        zip.addBuffer(Buffer.from(`${JSON.stringify(schemaOf(table, said(table), columns), null, 2)}\n`), `schemas/${table}.schema.json`, {
          mtime: at,
        })
        tables[table] = { rows, sha256: hash.digest('hex') }
      }
      const photos: { id: string }[] = await manager.query(`select photo_id as id from ${PICTURES} where ${OWN} order by photo_id`)
      for (const { id } of photos) {
        const picture = async function* (): AsyncGenerator<Buffer> {
          const [row]: { bytes: Buffer }[] = await manager.query(`select bytes from ${PICTURES} where ${OWN} and photo_id = $1`, [id])
          if (row) yield row.bytes
        }
        await add(`photos/${id}.jpg`, picture(), false)
        pictures += 1
      }
      for await (const { name, text } of papers(manager)) {
        // Waited for, so that papers do not all stand in memory until their turn comes.
        await add(`papers/${name}`, once(text))
      }
      const manifest: Manifest = {
        format: FORMAT,
        version: FORMAT_VERSION,
        firmId,
        firm: firm.name,
        madeAt: at.toISOString(),
        tables,
        pictures,
      }
      zip.addBuffer(Buffer.from(`${JSON.stringify(manifest, null, 2)}\n`), 'manifest.json', { mtime: at })
      zip.end()
    }
    await Promise.all([write(), written])
    return Object.values(tables).reduce((sum, { rows }) => sum + rows, pictures)
  })
}

function said(table: string): string {
  const about = CARRIED[table]
  return about !== undefined && 'carried' in about ? about.carried : ''
}
const described = (): string => `${CARRIED_TABLES.map((table) => `${table.padEnd(22)}${said(table)}`).join('\n')}\n`
