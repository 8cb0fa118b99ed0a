// Lines kept in a file, which makes room for the next one when it is full; the oldest of a few goes.
import { appendFileSync, existsSync, mkdirSync, renameSync, statSync } from 'node:fs'
import { dirname } from 'node:path'

const MOST_BYTES = 8 * 2 ** 20
const KEPT = 5

/** Writes lines into `file`; earlier ones stand beside it as `file.1` (the latest) to `file.5`. A disk that is full loses lines and nothing else. */
export function logFile(file, { mostBytes = MOST_BYTES, kept = KEPT } = {}) {
  mkdirSync(dirname(file), { recursive: true, mode: 0o700 })
  let size = existsSync(file) ? statSync(file).size : 0
  const turnOver = () => {
    for (let no = kept - 1; no >= 0; no--) {
      const from = no === 0 ? file : `${file}.${no}`
      if (existsSync(from)) renameSync(from, `${file}.${no + 1}`)
    }
    size = 0
  }
  let lost = false
  return (line) => {
    const text = line.endsWith('\n') ? line : `${line}\n`
    try {
      if (size > 0 && size + Buffer.byteLength(text) > mostBytes) turnOver()
      appendFileSync(file, text, { mode: 0o600 })
      size += Buffer.byteLength(text)
      lost = false
    } catch (error) {
      if (!lost) process.stderr.write(`The log ${file} cannot be written: ${error.message}\n`)
      lost = true
    }
  }
}
