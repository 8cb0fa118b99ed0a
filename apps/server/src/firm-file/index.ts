import type { DataSource } from 'typeorm'
import { papersOfFirm } from './papers'
import { type BroughtIn, bringFirmIn } from './read'
import { writeFirmFile } from './write'

/** A firm's whole file on this database: written out, and brought in. */
export const firmFilesOf = (source: DataSource, now: () => Date) => ({
  write: (firmId: string, path: string, at: Date): Promise<number> => writeFirmFile(source, firmId, path, at, papersOfFirm),
  bringIn: (path: string): Promise<BroughtIn> => bringFirmIn(source, path, now()),
})
