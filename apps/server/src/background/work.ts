import type PgBoss from 'pg-boss'
import type { Log } from '../log'

interface Worked<T> {
  queue: string
  /** Looked for again after so long, where nobody said that there is something. */
  everyMs: number
  handle: (data: T) => Promise<void>
}

export interface Worker {
  /** There is something: looked at now instead of at the next turn. */
  wake: () => void
  /** Resolves once the work at hand has ended. */
  stop: () => Promise<void>
}

/** What is asked for within this time of one another is one job. */
const GATHER_MS = 150

/**
 * Works a queue one job after another. Our own loop: the library's does not wait for what it tells the database, so that a database that
 * goes away in the middle of a job rejects with nobody to hear it, and ends the process. Here trouble is logged, and the job's lease
 * brings it back.
 */
export function workQueue<T extends object>(boss: PgBoss, log: Log, { queue, everyMs, handle }: Worked<T>): Worker {
  let stopping = false
  let wakeUp: () => void = () => undefined
  const trouble = (at: string) => (error: unknown) => log('warn', 'queue-trouble', { queue, at, cause: String(error) })
  const rest = (): Promise<void> =>
    new Promise((resolve) => {
      const timer = setTimeout(resolve, everyMs)
      wakeUp = () => {
        clearTimeout(timer)
        resolve()
      }
    })
  /** Works one job; false where there was none. */
  const turn = async (): Promise<boolean> => {
    const [job] = await boss.fetch<T>(queue)
    if (job === undefined) return false
    try {
      await handle(job.data)
    } catch (error) {
      trouble('job')(error)
      await boss.fail(queue, job.id, { cause: String(error) })
      return true
    }
    await boss.complete(queue, job.id)
    return true
  }
  const run = async (): Promise<void> => {
    while (!stopping) {
      const worked = await turn().catch((error: unknown) => {
        trouble('database')(error)
        return false
      })
      if (!worked && !stopping) await rest()
    }
  }
  const ended = run()
  return {
    wake: () => {
      setTimeout(() => wakeUp(), GATHER_MS).unref()
    },
    stop: async () => {
      stopping = true
      wakeUp()
      await ended
    },
  }
}
