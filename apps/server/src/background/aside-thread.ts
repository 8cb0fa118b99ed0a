import './below'
import { parentPort, workerData } from 'node:worker_threads'
import type { Language } from '@evenround/core/words'
import { dataSource } from '../db/data-source'
import type { ApiError } from '../http/errors'
import { asApiError } from '../http/failures'
import { speaking } from '../http/language'
import { jsonLog } from '../log'
import { apartOf, type Commands, listsOf, queueOf } from './commands'

/** What a thread is told when it begins. */
export interface AsideData {
  what: 'queue' | 'lists' | 'apart'
  url: string
  asAppRole: boolean
  /** How long a turn of the planner may take at most, seconds; null as the plan asks. */
  planSeconds: number | null
  /** Hosts of routing servers that firms may name. */
  roadHosts: readonly string[]
}
export interface AsideAsk {
  id: number
  name: string
  args: unknown[]
  language: Language
}
export type AsideAnswer =
  | { id: number; value: unknown }
  | { id: number; refused: { code: ApiError['code']; message: string; more: ApiError['more'] } }
  | { id: number; failed: string }

const FAREWELL_MS = 50
const POOL = { queue: 5, lists: 2, apart: 3 } as const

const { what, url, asAppRole, planSeconds, roadHosts } = workerData as AsideData
const now = () => new Date()
const log = jsonLog(process.stdout, now)
const source = dataSource({
  url,
  asAppRole,
  poolSize: POOL[what],
  onPoolError: (error) => log('warn', 'database-connection-lost', { what, cause: String(error) }),
})
// What is asked meanwhile waits for it; where the database is away, it is tried again with the thread.
const begun: Promise<Commands> = source.initialize().then(() => {
  if (what === 'queue') return queueOf({ source, log, now, planSeconds, roadHosts })
  return what === 'lists' ? listsOf({ source, now }) : apartOf({ source, log, now })
})
begun.catch((error: unknown) => {
  log('warn', 'thread-not-begun', { what, cause: String(error) })
  // Whoever waits is told first.
  setTimeout(() => process.exit(1), FAREWELL_MS)
})
// A connection lost under some work is over with that work; nothing else of this thread is.
process.on('unhandledRejection', (reason) => log('error', 'rejection-unheard', { what, cause: String(reason) }))

async function answer({ id, name, args, language }: AsideAsk): Promise<AsideAnswer> {
  try {
    const commands = await begun
    const command = commands[name] as ((...given: unknown[]) => Promise<unknown>) | undefined
    if (!command) throw new Error(`the thread for ${what} knows no ${name}`)
    return { id, value: await speaking(language, () => command(...args)) }
  } catch (error) {
    const { code, message, more } = speaking(language, () => asApiError(error))
    if (code !== 'INTERNAL') return { id, refused: { code, message, more } }
    return { id, failed: error instanceof Error ? (error.stack ?? error.message) : String(error) }
  }
}

parentPort?.on('message', (asked: AsideAsk) => {
  void answer(asked).then((answered) => parentPort?.postMessage(answered))
})
