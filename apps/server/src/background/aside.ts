import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { say } from '@evenround/core/words'
import { ApiError } from '../http/errors'
import { languageAsked } from '../http/language'
import type { Log } from '../log'
import type { AsideAnswer, AsideAsk, AsideData } from './aside-thread'

const MB_MOST = 1024
/** Before a thread that ended by itself is begun again. */
const AGAIN_MS = 1000

interface AsideOptions extends AsideData {
  log: Log
  /** Begun at once and begun again whenever it ends; otherwise with the first thing that is asked of it. */
  always: boolean
  /** How long one thing may take; what takes longer ends with the thread. */
  mostMs?: number
}

interface Waiting {
  resolve: (value: unknown) => void
  reject: (error: unknown) => void
}

/**
 * A thread with connections to the database of its own, for work that would keep everybody waiting on the thread that answers them.
 * What it is asked is answered or refused; where it ends in the middle, whoever waits is told so and the next thing asked finds a new one.
 */
export class Aside {
  private thread: Worker | null = null
  private readonly waiting = new Map<number, Waiting>()
  private next = 0
  private closing = false

  constructor(private readonly options: AsideOptions) {
    if (options.always) this.begin()
  }

  private begin(): Worker {
    const { log, always, mostMs: _, ...data } = this.options
    // In the build it stands beside the bundle; tests run it as it is built.
    const file = new URL(import.meta.url.endsWith('.ts') ? '../../dist/aside-thread.mjs' : './aside-thread.mjs', import.meta.url)
    const thread = new Worker(fileURLToPath(file), {
      workerData: data,
      resourceLimits: { maxOldGenerationSizeMb: MB_MOST },
    })
    thread.on('message', ({ id, ...answer }: AsideAnswer) => {
      const one = this.waiting.get(id)
      this.waiting.delete(id)
      if ('refused' in answer) one?.reject(new ApiError(answer.refused.code, answer.refused.message, answer.refused.more))
      else if ('failed' in answer) one?.reject(new Error(answer.failed))
      else one?.resolve(answer.value)
    })
    let cause: unknown = new ApiError('TIMED_OUT', say`That took too long or too much memory, and was stopped.`)
    thread.on('error', (error: Error & { code?: string }) => {
      log('error', 'thread-failed', { what: data.what, cause: String(error.stack ?? error) })
      if (error.code !== 'ERR_WORKER_OUT_OF_MEMORY') cause = error
    })
    thread.on('exit', () => {
      if (this.thread === thread) this.thread = null
      for (const one of this.waiting.values()) one.reject(cause)
      this.waiting.clear()
      if (!this.closing && always) setTimeout(() => this.closing || this.thread || this.begin(), AGAIN_MS).unref()
    })
    this.thread = thread
    return thread
  }

  /** Has it done in the thread, in the language of whoever asks. */
  async ask<T>(name: string, ...args: unknown[]): Promise<T> {
    const thread = this.thread ?? this.begin()
    const id = this.next++
    const limit = this.options.mostMs === undefined ? null : setTimeout(() => void thread.terminate(), this.options.mostMs)
    try {
      return await new Promise<T>((resolve, reject) => {
        this.waiting.set(id, { resolve: resolve as (value: unknown) => void, reject })
        thread.postMessage({ id, name, args, language: languageAsked() } satisfies AsideAsk)
      })
    } finally {
      if (limit !== null) clearTimeout(limit)
    }
  }

  /** Lets it finish what it has in hand, and ends it. */
  async close(): Promise<void> {
    this.closing = true
    const { thread } = this
    if (thread === null) return
    await this.ask('close').catch(() => undefined)
    await thread.terminate()
  }
}
