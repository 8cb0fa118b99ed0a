// A firm of twenty thousand systems and a million readings: its whole file out by the server's job, and what others wait for meanwhile.
import { createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { memoryOf, signIn, withDemo, writeLargeFirm } from './bench-server.mjs'

const LOOK_EVERY_MS = 100
const TARGET_HEALTH_MS = 250
const at = (values, share) => [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(share * values.length))]
const seconds = (ms) => `${(ms / 1000).toFixed(1)} s`

export async function run() {
  const folder = mkdtempSync(join(tmpdir(), 'even-round-file-'))
  try {
    return await withDemo(async ({ client, start }) => {
      await writeLargeFirm(client)
      const server = await start()
      const cookie = await signIn(server)
      const url = `http://127.0.0.1:${server.port}`
      const before = memoryOf(server.pid)
      const began = performance.now()
      await fetch(`${url}/api/firm-file`, { method: 'POST', headers: { cookie } })
      const waits = []
      let most = before
      let file = null
      while (file?.state !== 'made') {
        const asked = performance.now()
        ;({ file } = await (await fetch(`${url}/api/firm-file`, { headers: { cookie } })).json())
        waits.push(performance.now() - asked)
        most = Math.max(most, memoryOf(server.pid))
        if (file?.state === 'failed') throw new Error('the file could not be made: see the server’s log')
        await new Promise((resolve) => setTimeout(resolve, LOOK_EVERY_MS))
      }
      const made = performance.now() - began
      const path = join(folder, 'firm.zip')
      const fetched = performance.now()
      await pipeline(
        Readable.fromWeb((await fetch(`${url}/api/firm-file/${file.id}`, { headers: { cookie } })).body),
        createWriteStream(path),
      )
      const took = performance.now() - fetched
      const good = at(waits, 0.95) < TARGET_HEALTH_MS && statSync(path).size === file.bytes
      process.stdout.write(
        `\n${file.rows} rows, ${(file.bytes / 2 ** 20).toFixed(0)} MB: made in ${seconds(made)}, fetched in ${seconds(took)}.\n` +
          `Another request meanwhile: median ${at(waits, 0.5).toFixed(0)} ms, 95 % ${at(waits, 0.95).toFixed(0)} ms, at most ${Math.max(...waits).toFixed(0)} ms (95 % target ${TARGET_HEALTH_MS} ms).\n` +
          `The server's memory: ${before} MB before, at most ${most} MB.\n\nTarget ${good ? 'met' : 'NOT met'}.\n`,
      )
      return good
    })
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}
