import { say } from '@evenround/core/words'
import { createMiddleware } from 'hono/factory'
import type { Env } from './env'
import { ApiError } from './errors'

interface GateOptions {
  /** How much runs at the same time. */
  atOnce: number
  /** How much may wait for its turn, of all together and of each. */
  waiting: number
  waitingEach?: number
  /** After how many seconds whoever is turned away may ask again. */
  againAfterS?: number
}

/**
 * Lets heavy work in a few at a time, in turns between those who ask (firms, addresses), so that nobody's heap of work keeps the others
 * waiting. What would wait beyond the bound is turned away at once, and may ask again.
 */
export class FairGate {
  private running = 0
  private waitingNow = 0
  private readonly queues = new Map<string, (() => void)[]>()

  constructor(private readonly options: GateOptions) {}

  async run<T>(who: string, work: () => Promise<T>): Promise<T> {
    await this.turn(who)
    try {
      return await work()
    } finally {
      this.running--
      this.next()
    }
  }

  private turn(who: string): Promise<void> {
    const { atOnce, waiting, waitingEach = waiting, againAfterS = 2 } = this.options
    if (this.running < atOnce) {
      this.running++
      return Promise.resolve()
    }
    const own = this.queues.get(who) ?? []
    if (this.waitingNow >= waiting || own.length >= waitingEach)
      throw new ApiError('BUSY', say`The server has too much of this to do at the moment. Try again in a few seconds.`, {
        retryAfterS: againAfterS,
      })
    this.queues.set(who, own)
    this.waitingNow++
    return new Promise((resolve) => own.push(resolve))
  }

  /** The next turn is that of whoever waits longest since their last one. */
  private next(): void {
    const [first] = this.queues
    if (first === undefined) return
    const [who, own] = first
    const go = own.shift()
    this.queues.delete(who)
    if (own.length > 0) this.queues.set(who, own)
    if (go === undefined) return
    this.waitingNow--
    this.running++
    go()
  }
}

/** Has requests wait for their firm's turn before their bodies are read: what waits then is a connection and not a heap of facts. */
export const inTurns = (gate: FairGate) => createMiddleware<Env>((c, next) => gate.run(c.get('who').firmId, next))
