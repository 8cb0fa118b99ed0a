import type { EntityManager } from 'typeorm'
import yazl from 'yazl'
import { columnsOf } from './columns'
import { sitePapers } from './papers'
import { CARRIED_TABLES, PICTURES } from './tables'

const OWN = `t.firm_id = current_setting('app.firm_id')::uuid`
/** By which column a row is about the site, nearest first. */
const ABOUT: readonly (readonly [column: string, where: string])[] = [
  ['site_id', 't.site_id = $1'],
  ['system_id', `t.system_id in (select id from system y where y.firm_id = t.firm_id and y.site_id = $1)`],
]

/** Tables of sites themselves; what was merged into the site is the same customer. */
const OWN_ROWS: Readonly<Record<string, string>> = {
  site: '(t.id = $1 or t.merged_into = $1)',
  site_hours: 't.id = $1',
  site_move: '(t.from_site = $1 or t.to_site = $1)',
}

async function rowsAbout(manager: EntityManager, siteId: string): Promise<Record<string, unknown[]>> {
  const found: Record<string, unknown[]> = {}
  for (const table of CARRIED_TABLES.filter((name) => name !== PICTURES)) {
    const columns = (await columnsOf(manager, table)).map(({ name }) => name)
    const about = OWN_ROWS[table] ?? ABOUT.find(([column]) => columns.includes(column))?.[1]
    if (about === undefined) continue
    const rows: { row: unknown }[] = await manager.query(`select row_to_json(t) as row from ${table} t where ${OWN} and ${about}`, [siteId])
    if (rows.length > 0) found[table] = rows.map(({ row }) => row)
  }
  return found
}

/** All that is kept about one site: in words, as data, and its pictures. Resolves with the ZIP; null where there is no such site. */
export async function customerFile(manager: EntityManager, siteId: string, at: Date): Promise<Buffer | null> {
  const zip = new yazl.ZipFile()
  const options = { mtime: at }
  let there = false
  for await (const { name, text } of sitePapers(manager, [siteId])) {
    there = true
    zip.addBuffer(Buffer.from(text), name, options)
  }
  if (!there) return null
  zip.addBuffer(Buffer.from(`${JSON.stringify(await rowsAbout(manager, siteId), null, 2)}\n`), 'data.json', options)
  const photos: { id: string; bytes: Buffer }[] = await manager.query(
    `select t.photo_id as id, t.bytes from ${PICTURES} t join photo p on p.firm_id = t.firm_id and p.id = t.photo_id where ${OWN} and p.site_id = $1`,
    [siteId],
  )
  for (const { id, bytes } of photos) zip.addBuffer(bytes, `photos/${id}.jpg`, { ...options, compress: false })
  zip.end()
  const pieces: Buffer[] = []
  for await (const piece of zip.outputStream) pieces.push(piece as Buffer)
  return Buffer.concat(pieces)
}
