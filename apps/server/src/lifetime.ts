import type { EventEmitter } from 'node:events'
import { databaseAway } from './db/errors'
import type { Log } from './log'

interface Lifetime {
  /** The process, or something that speaks like one. */
  events: Pick<EventEmitter, 'on'>
  log: Log
  /** Lets what is being answered be answered, and ends with this code. */
  close: (why: string, code: number) => Promise<void>
}

const causeOf = (error: unknown): string => (error instanceof Error ? (error.stack ?? error.message) : String(error))

/**
 * Nothing ends the process without a line in the log. Work of a connection that was lost under it is over, and nothing else: it is logged
 * and the next request finds a new one. Whatever else nobody heard leaves the process in a state nobody knows: it is closed cleanly, and
 * whoever watches it starts it again.
 */
export function watchOver({ events, log, close }: Lifetime): void {
  events.on('unhandledRejection', (reason: unknown) => {
    const away = databaseAway(reason)
    log(away ? 'warn' : 'error', 'rejection-unheard', { cause: causeOf(reason) })
    if (!away) void close('unhandledRejection', 1)
  })
  events.on('uncaughtException', (error: unknown) => {
    log('error', 'exception-uncaught', { cause: causeOf(error) })
    void close('uncaughtException', 1)
  })
  for (const signal of ['SIGTERM', 'SIGINT']) events.on(signal, () => void close(signal, 0))
}
