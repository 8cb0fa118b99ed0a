import type { Fact } from '@evenround/core/visit'
import { type Sent, sendAll, waitAfter } from './sending'

const fact = (id: number): Fact => ({ id: `f${id}`, seq: id }) as Fact

/** A server that refuses any batch with one of these in it, and settles the others; what reached it, in order. */
function serverThat(refuses: readonly number[], facts: readonly Fact[], away: readonly number[] = []) {
  const bad = new Set(refuses.map((id) => `f${id}`))
  const left = new Map(facts.map((one) => [one.id, one]))
  const stored: string[] = []
  const apart: string[] = []
  let requests = 0
  const send = async (batch: readonly Fact[]): Promise<Sent> => {
    requests += 1
    if (away.includes(requests)) return 'later'
    if (batch.some(({ id }) => bad.has(id))) return 'refused'
    for (const { id } of batch) {
      stored.push(id)
      left.delete(id)
    }
    return 'settled'
  }
  const quarantine = async ({ id }: Fact): Promise<void> => {
    apart.push(id)
    left.delete(id)
  }
  return { sender: { most: 100, waiting: () => [...left.values()], send, quarantine }, stored, apart, requests: () => requests }
}
const numbers = (count: number): Fact[] => Array.from({ length: count }, (_, index) => fact(index))

test('what waits goes out in order, a hundred at a time', async () => {
  const { sender, stored, requests } = serverThat([], numbers(250))
  expect(await sendAll(sender)).toBe(true)
  expect(stored).toEqual(numbers(250).map(({ id }) => id))
  expect(requests()).toBe(3)
})

test.each([[[7]], [[0, 99]], [[3, 4, 5]], [[249]]])(
  'facts %p that are refused for good are kept apart; none behind them waits',
  async (refuses) => {
    const { sender, stored, apart } = serverThat(refuses, numbers(250))
    expect(await sendAll(sender)).toBe(true)
    expect(apart).toEqual(refuses.map((id) => `f${id}`))
    expect(stored).toEqual(numbers(250).flatMap(({ id, seq }) => (refuses.includes(seq) ? [] : [id])))
  },
)

test('a server that is away keeps everything where it is', async () => {
  const { sender, stored, apart } = serverThat([], numbers(150), [2])
  expect(await sendAll(sender)).toBe(false)
  expect([stored.length, apart.length, sender.waiting().length]).toEqual([100, 0, 50])
  expect(await sendAll(sender)).toBe(true)
  expect(stored).toHaveLength(150)
})

test('the wait doubles up to a minute, and differs from device to device', () => {
  expect([1, 2, 3, 4].map((failures) => waitAfter(failures, 0.999999))).toEqual([1000, 2000, 4000, 8000])
  expect([waitAfter(1, 0), waitAfter(30, 0), waitAfter(30, 0.999999)]).toEqual([500, 30_000, 60_000])
})
