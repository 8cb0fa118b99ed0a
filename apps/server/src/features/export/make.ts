import { createReadStream } from 'node:fs'
import { mkdtemp, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { InFirm } from '../../db/scope'
import { fileFailed, fileMade, isWanted, putPart } from './store'

const PART_BYTES = 1024 * 1024

interface Making {
  inFirm: InFirm
  now: () => Date
  /** Writes the firm's file to a path; resolves with the number of rows. */
  write: (firmId: string, path: string, at: Date) => Promise<number>
}

/** Makes the file that somebody asked for, and keeps it in pieces where every process finds it. What fails says so at the asker's screen. */
export async function makeFile({ inFirm, now, write }: Making, firmId: string, fileId: string): Promise<void> {
  if (!(await inFirm(firmId, (scope) => isWanted(scope, fileId)))) return
  const folder = await mkdtemp(join(tmpdir(), 'even-round-file-'))
  const path = join(folder, 'firm.zip')
  try {
    const at = now()
    const rows = await write(firmId, path, at)
    let no = 0
    for await (const bytes of createReadStream(path, { highWaterMark: PART_BYTES })) {
      await inFirm(firmId, (scope) => putPart(scope, fileId, no, bytes as Buffer))
      no += 1
    }
    const { size } = await stat(path)
    await inFirm(firmId, (scope) => fileMade(scope, fileId, at, size, rows))
  } catch (error) {
    await inFirm(firmId, (scope) => fileFailed(scope, fileId))
    throw error
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
