import type { FirmFileDto } from '@evenround/contract/export'
import type { FirmScope } from '../../db/scope'

/** All that a firm has is not left lying about longer. */
const KEPT_MS = 7 * 86_400_000

interface FileRow {
  id: string
  state: FirmFileDto['state']
  asked_at: Date
  asked_by: string
  made_at: Date | null
  bytes: string | null
  row_count: number | null
}

/** The firm's file as it stands; null where none was asked for, or the last one is too old. */
export async function fileOf(scope: FirmScope, now: Date): Promise<FirmFileDto | null> {
  const [row] = await scope.query<FileRow>(
    `select f.id, f.state, f.asked_at, p.name as asked_by, f.made_at, f.bytes, f.row_count from firm_file f
     join person p on p.firm_id = f.firm_id and p.id = f.asked_by where f.firm_id = $1 order by f.asked_at desc limit 1`,
  )
  if (!row) return null
  const until = new Date(row.asked_at.getTime() + KEPT_MS)
  if (until <= now) return null
  return {
    id: row.id,
    state: row.state,
    askedAt: row.asked_at.toISOString(),
    askedBy: row.asked_by,
    madeAt: row.made_at?.toISOString() ?? null,
    bytes: row.bytes === null ? null : Number(row.bytes),
    rows: row.row_count,
    until: until.toISOString(),
  }
}

/** Notes that a file is wanted; the one before it goes. */
export async function askFile(scope: FirmScope, id: string, personId: string, now: Date): Promise<void> {
  await scope.query('delete from firm_file where firm_id = $1')
  await scope.query(`insert into firm_file (firm_id, id, state, asked_by, asked_at) values ($1, $2, 'asked', $3, $4)`, [id, personId, now])
}

/** Files whose week is over go; they hold all that the firm has. */
export async function dropOldFiles(scope: FirmScope, now: Date): Promise<void> {
  await scope.query('delete from firm_file where firm_id = $1 and asked_at <= $2', [new Date(now.getTime() - KEPT_MS)])
}

export async function putPart(scope: FirmScope, fileId: string, no: number, bytes: Buffer): Promise<void> {
  await scope.query(
    `insert into firm_file_part (firm_id, file_id, no, bytes) values ($1, $2, $3, $4)
     on conflict (firm_id, file_id, no) do update set bytes = excluded.bytes`,
    [fileId, no, bytes],
  )
}

/** A piece of a file; null behind the last one. */
export async function partOf(scope: FirmScope, fileId: string, no: number): Promise<Buffer | null> {
  const [row] = await scope.query<{ bytes: Buffer }>('select bytes from firm_file_part where firm_id = $1 and file_id = $2 and no = $3', [
    fileId,
    no,
  ])
  return row?.bytes ?? null
}

export async function fileMade(scope: FirmScope, id: string, at: Date, bytes: number, rows: number): Promise<void> {
  await scope.query(`update firm_file set state = 'made', made_at = $3, bytes = $4, row_count = $5 where firm_id = $1 and id = $2`, [
    id,
    at,
    bytes,
    rows,
  ])
}

export async function fileFailed(scope: FirmScope, id: string): Promise<void> {
  await scope.query(`update firm_file set state = 'failed' where firm_id = $1 and id = $2`, [id])
}

export async function isWanted(scope: FirmScope, id: string): Promise<boolean> {
  return (await scope.query(`select 1 from firm_file where firm_id = $1 and id = $2 and state = 'asked'`, [id])).length > 0
}
