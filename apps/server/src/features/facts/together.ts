import { toComeAgain } from '../../db/errors'
import type { AskFirm } from '../../db/scope'
import { type PlainRows, storeRows } from './plain'

/** Statements of one firm under way at the same time: one is prepared and sent while the other is worked on. */
const AT_ONCE = 2
/** Facts in one statement, about; a batch is never torn apart. */
const MOST_TOGETHER = 200

interface Waiting {
  rows: PlainRows
  done: (standing: ReadonlySet<string>) => void
  failed: (error: unknown) => void
}

interface Queue {
  running: number
  waiting: Waiting[]
}

/**
 * What phones of one firm send while a statement of it is under way goes with the next one, all together: at a busy moment forty ticks
 * cost hardly more than one. Nothing waits where nothing is under way. Where a statement fails, each batch in it is tried by itself, unless
 * none of them could fare better.
 */
export function storedTogetherBy(ask: AskFirm): (firmId: string, rows: PlainRows) => Promise<ReadonlySet<string>> {
  const queues = new Map<string, Queue>()

  const nextOf = ({ waiting }: Queue): Waiting[] => {
    const group: Waiting[] = []
    const ids = new Set<string>()
    const left: Waiting[] = []
    for (const one of waiting.splice(0)) {
      const own = one.rows.given.map(({ id }) => id)
      // The same fact twice would fail at its receipt: the second goes with the next statement, and finds what the first left.
      const fits = ids.size === 0 || (ids.size + own.length <= MOST_TOGETHER && !own.some((id) => ids.has(id)))
      if (fits) for (const id of own) ids.add(id)
      ;(fits ? group : left).push(one)
    }
    waiting.push(...left)
    return group
  }

  const send = async (firmId: string, group: readonly Waiting[]): Promise<void> => {
    try {
      const standing = await storeRows(
        ask,
        firmId,
        group.map(({ rows }) => rows),
      )
      for (const { done } of group) done(standing)
    } catch (error) {
      // By itself none of them would fare better where the database is away.
      if (group.length === 1 || toComeAgain(error)) for (const { failed } of group) failed(error)
      else for (const one of group) await send(firmId, [one])
    }
  }

  const work = async (firmId: string, queue: Queue): Promise<void> => {
    queue.running++
    while (queue.waiting.length > 0) await send(firmId, nextOf(queue))
    queue.running--
    if (queue.running === 0) queues.delete(firmId)
  }

  return (firmId, rows) =>
    new Promise((done, failed) => {
      const queue = queues.get(firmId) ?? { running: 0, waiting: [] }
      queues.set(firmId, queue)
      queue.waiting.push({ rows, done, failed })
      if (queue.running < AT_ONCE) void work(firmId, queue)
    })
}
