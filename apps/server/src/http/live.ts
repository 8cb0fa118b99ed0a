import type { News } from '@evenround/contract/live'
import type { Context } from 'hono'
import { type SSEStreamingApi, streamSSE } from 'hono/streaming'
import { Client } from 'pg'
import type { DataSource } from 'typeorm'
import type { Log } from '../log'
import type { Env } from './env'

/** The one channel of the database on which server processes tell one another; a message is at most 8,000 bytes there. */
const CHANNEL = 'even_round_live'
const MOST_BYTES = 7_500
/** A stream that says nothing for longer is taken for dead by what stands in between. */
const BEAT_MS = 20_000
/** A line that says nothing. */
const COMMENT = ':\n\n'
const FIRST_WAIT_MS = 500
const LONGEST_WAIT_MS = 30_000

/** Tells every server process, and through them every device of the firm. Never fails whoever did the work. */
export type Tell = (firmId: string, news: News) => Promise<void>

export function tellOver(source: DataSource, log: Log): Tell {
  let waiting: string[] = []
  let under: Promise<void> = Promise.resolve()
  let next: Promise<void> | null = null
  const send = async (): Promise<void> => {
    const told = waiting
    waiting = []
    next = null
    try {
      await source.query('select pg_notify($1, one) from unnest($2::text[]) with ordinality t (one, place) order by place', [CHANNEL, told])
    } catch (error) {
      log('warn', 'not-told', { cause: String(error) })
    }
  }
  return (firmId, news) => {
    const text = JSON.stringify({ firmId, news })
    const again: News = { what: 'again' }
    waiting.push(text.length > MOST_BYTES ? JSON.stringify({ firmId, news: again }) : text)
    // What is told while a message is under way goes with the next one, all together.
    next ??= under = under.then(send)
    return next
  }
}

export interface LiveHub {
  /** Answers a request with the firm's news as they come. */
  stream: (c: Context<Env>) => Response
  /** Resolves once the database is listened to. */
  listening: () => Promise<void>
  close: () => Promise<void>
}

interface Listener {
  firmId: string
  send: (news: News) => void
  end: () => void
}

/**
 * Listens to the database on a connection of its own, straight to the server: a pooler in between would lose the channel. Where the
 * connection is lost it comes back by itself, and everybody is told to look again: what happened meanwhile was not heard.
 */
export function liveHub({ url, log }: { url: string; log: Log }): LiveHub {
  const listeners = new Set<Listener>()
  let closing = false
  let client: Client | null = null
  let heard: () => void = () => undefined
  const ready = new Promise<void>((resolve) => {
    heard = resolve
  })
  const everybody = (news: News): void => {
    for (const { send } of listeners) send(news)
  }
  const hear = (payload: string): void => {
    const { firmId, news } = JSON.parse(payload) as { firmId: string; news: News }
    for (const one of listeners) if (one.firmId === firmId) one.send(news)
  }
  const connect = async (lost: () => void): Promise<Client> => {
    const next = new Client({ connectionString: url, keepAlive: true, connectionTimeoutMillis: 3000 })
    next.on('error', () => undefined)
    next.on('end', lost)
    next.on('notification', ({ payload }) => {
      if (payload !== undefined) hear(payload)
    })
    await next.connect()
    await next.query(`listen ${CHANNEL}`)
    return next
  }
  const run = async (): Promise<void> => {
    let wait = FIRST_WAIT_MS
    while (!closing) {
      try {
        const gone = new Promise<void>((resolve) => {
          void connect(resolve).then(
            (next) => {
              client = next
              wait = FIRST_WAIT_MS
              heard()
              // Whoever listened before the database was heard may have missed something, the first time too.
              everybody({ what: 'again' })
            },
            (error: unknown) => {
              log('warn', 'live-away', { cause: String(error) })
              resolve()
            },
          )
        })
        await gone
      } finally {
        client = null
      }
      if (closing) return
      await new Promise((resolve) => setTimeout(resolve, wait).unref())
      wait = Math.min(LONGEST_WAIT_MS, wait * 2)
    }
  }
  const ended = run()

  const serve = (firmId: string) => async (stream: SSEStreamingApi) => {
    await new Promise<void>((end) => {
      const write = (text: string): void => void stream.write(text).catch(end)
      const listener: Listener = { firmId, send: (news) => write(`data: ${JSON.stringify(news)}\n\n`), end }
      listeners.add(listener)
      const beat = setInterval(write, BEAT_MS, COMMENT)
      listener.end = () => {
        clearInterval(beat)
        listeners.delete(listener)
        end()
      }
      stream.onAbort(listener.end)
      // Something is said at once, so that the device knows that it is heard.
      write(COMMENT)
    })
  }
  return {
    // Whoever asks again while the server closes would keep it open.
    stream: (c) => (closing ? c.body(null, 503) : streamSSE(c, serve(c.get('who').firmId))),
    listening: () => ready,
    close: async () => {
      closing = true
      for (const { end } of [...listeners]) end()
      await client?.end()
      await Promise.race([ended, new Promise((resolve) => setTimeout(resolve, 200).unref())])
    },
  }
}
