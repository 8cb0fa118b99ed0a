import { readFileSync, writeFileSync } from 'node:fs'
import { z } from 'zod'
import { differences, type ServerPrint, serverPrint } from './backup/fingerprint'
import { lastGood, noteAttempt } from './backup/note'
import { archived, takePoint } from './backup/point'

/**
 * The part of bin/backup and bin/restore that looks into the database. The address is that of a superuser; answers are one JSON document.
 *   last URL            { at }: when the last good backup was begun
 *   point URL NAME FILE names a moment, waits until its log is among the backups: { name }; what stood there then goes into the file
 *   compare URL FILE    { same, firms, differences }: the server against the print in a file
 *   note URL JSON       writes a try down
 */
const attemptSchema = z.strictObject({
  beganAt: z.coerce.date(),
  endedAt: z.coerce.date(),
  kind: z.enum(['full', 'incremental']),
  checked: z.boolean().nullable(),
  failed: z.string().nullable(),
  bytes: z.number().nullable(),
})

const COMMANDS: Record<string, (url: string, first: string, second: string) => Promise<unknown>> = {
  last: async (url) => ({ at: (await lastGood(url))?.toISOString() ?? null }),
  point: async (url, name, file) => {
    const point = await takePoint(url, name)
    writeFileSync(file, JSON.stringify(point.print), { mode: 0o600 })
    await archived(url, point.walFile)
    return { name: point.name }
  },
  compare: async (url, file) => {
    const kept = JSON.parse(readFileSync(file, 'utf8')) as ServerPrint
    const found = differences(kept, await serverPrint(url))
    return { same: found.length === 0, firms: Object.values(kept).flatMap(({ firms }) => Object.keys(firms)).length, differences: found }
  },
  note: async (url, json) => {
    await noteAttempt(url, attemptSchema.parse(JSON.parse(json)))
    return {}
  },
}

const [command = '', url = '', first = '', second = ''] = process.argv.slice(2)
const work = COMMANDS[command]
if (!work || url === '') throw new Error(`No such command: ${command}`)
process.stdout.write(`${JSON.stringify(await work(url, first, second))}\n`)
