import 'fake-indexeddb/auto'
import { webcrypto } from 'node:crypto'
import { deserialize, serialize } from 'node:v8'

/** What a browser has and the tests' window lacks: a store of its own, copies of values, random numbers, and locks between tabs. */

/** One holder of a lock at a time, in the order of asking; whoever steals it takes it from whoever holds it. */
class Locks {
  private readonly queues = new Map<string, Promise<unknown>>()
  private readonly taken = new Map<string, (reason: Error) => void>()

  request<T>(name: string, options: { steal?: boolean } | (() => Promise<T>), work?: () => Promise<T>): Promise<T> {
    const run = typeof options === 'function' ? options : work
    if (!run) throw new TypeError('a lock is asked for to do something')
    if (typeof options !== 'function' && options.steal) {
      this.taken.get(name)?.(new Error('the lock was stolen'))
      return new Promise<T>((resolve, reject) => {
        this.taken.set(name, reject)
        run().then(resolve, reject)
      })
    }
    const before = this.queues.get(name) ?? Promise.resolve()
    const mine = before.then(run, run)
    this.queues.set(
      name,
      mine.catch(() => undefined),
    )
    return mine
  }
}

const give = (target: object, name: string, value: unknown): void => {
  Object.defineProperty(target, name, { value, configurable: true, writable: true })
}
give(globalThis, 'structuredClone', (value: unknown) => deserialize(serialize(value)))
give(globalThis, 'crypto', webcrypto)
give(navigator, 'locks', new Locks())

/** One request as it reached the server. */
export interface Asked {
  method: string
  path: string
  body: unknown
}
export type Answer = { status: number; body: unknown } | 'no network'

/** A server that answers as `answer` says; what was asked of it, in order. */
export function serverThat(answer: (asked: Asked) => Answer): { asked: Asked[] } {
  const asked: Asked[] = []
  give(globalThis, 'fetch', async (input: string | URL | { url: string }, init?: RequestInit) => {
    const path = typeof input === 'string' ? input : 'url' in input ? input.url : input.href
    const text = typeof init?.body === 'string' ? init.body : null
    const one = { method: init?.method ?? 'GET', path, body: text === null ? (init?.body ?? null) : JSON.parse(text) }
    asked.push(one)
    const given = answer(one)
    if (given === 'no network') throw new TypeError('Failed to fetch')
    return { ok: given.status < 400, status: given.status, json: async () => given.body, headers: new Map() }
  })
  return { asked }
}

/** Waits for what goes on by itself: promises, stores and timers of no length. */
export async function until(there: () => boolean): Promise<void> {
  for (let turns = 0; turns < 2000; turns++) {
    if (there()) return
    await new Promise((resolve) => setTimeout(resolve, 1))
  }
  throw new Error('it never came to that')
}
