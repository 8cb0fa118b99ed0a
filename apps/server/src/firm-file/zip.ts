import type { Readable } from 'node:stream'
import { promisify } from 'node:util'
import yauzl from 'yauzl'

/** A ZIP on disk, of which each entry is read when it is asked for. */
export interface OpenZip {
  names: readonly string[]
  read: (name: string) => Promise<Readable>
  close: () => void
}

const openFile = promisify<string, yauzl.Options, yauzl.ZipFile>(yauzl.open)

/** Opens a ZIP and its list of entries; rejects where it is none. Names that lead out of it are refused by the reader. */
export async function openZip(path: string): Promise<OpenZip> {
  const zip = await openFile(path, { lazyEntries: true, autoClose: false })
  const entries = new Map<string, yauzl.Entry>()
  await new Promise<void>((resolve, reject) => {
    zip.on('entry', (entry: yauzl.Entry) => {
      entries.set(entry.fileName, entry)
      zip.readEntry()
    })
    zip.once('end', resolve)
    zip.once('error', reject)
    zip.readEntry()
  }).catch((error: unknown) => {
    zip.close()
    throw error
  })
  return {
    names: [...entries.keys()],
    read: (name) =>
      new Promise((resolve, reject) => {
        const entry = entries.get(name)
        if (!entry) return reject(new Error(`${name} is not in the file`))
        zip.openReadStream(entry, (error, stream) => (error ? reject(error) : resolve(stream)))
      }),
    close: () => zip.close(),
  }
}
