import { STALE_BY_EDIT } from '@evenround/contract/edits'
import { QueryClient } from '@tanstack/react-query'
import { hear, listen, useLive } from './live'

/** The browser's stream, driven by hand. */
class Stream {
  static opened: Stream[] = []
  onopen: (() => void) | null = null
  onerror: (() => void) | null = null
  onmessage: ((event: { data: string }) => void) | null = null
  readyState = 1
  closed = false
  constructor(readonly path: string) {
    Stream.opened.push(this)
  }
  close(): void {
    this.closed = true
  }
}
beforeAll(() => {
  Object.defineProperty(globalThis, 'EventSource', { value: Stream })
})
beforeEach(() => {
  Stream.opened = []
  jest.useFakeTimers()
})
afterEach(() => jest.useRealTimers())

/** A client with an answer under each root; which of them are to be asked for again. */
function clientWith(...roots: string[]) {
  const client = new QueryClient()
  for (const root of roots) client.setQueryData([root], {})
  const stale = (): string[] =>
    client
      .getQueryCache()
      .getAll()
      .filter(({ state }) => state.isInvalidated)
      .map(({ queryKey }) => String(queryKey[0]))
      .sort()
  return { client, stale }
}

test('what the stream says is asked for again; after a silence everything is', () => {
  const { client, stale } = clientWith('round', 'today', 'shelf')
  const stop = listen(client, 'mine')
  const [stream] = Stream.opened
  expect([stream?.path, useLive.getState().connected]).toEqual(['/api/live', false])
  stream?.onopen?.()
  expect([useLive.getState().connected, stale()]).toEqual([true, []])
  stream?.onmessage?.({ data: JSON.stringify({ what: 'round', published: false }) })
  expect(stale()).toEqual(['round'])
  stream?.onopen?.()
  expect(stale()).toEqual(['round', 'shelf', 'today'])
  stop()
  expect([stream?.closed, useLive.getState().connected]).toEqual([true, false])
})

test('trouble that the browser mends is left to it; a stream that was ended for good is opened again, ever later', () => {
  const { client } = clientWith()
  const stop = listen(client, 'mine')
  const [stream] = Stream.opened
  stream?.onopen?.()
  stream?.onerror?.()
  jest.advanceTimersByTime(120_000)
  expect(Stream.opened).toHaveLength(1)
  for (let times = 1; times <= 3; times++) {
    const last = Stream.opened.at(-1)
    if (last) last.readyState = 2
    last?.onerror?.()
    // At the soonest after half of the wait, at the latest after all of it.
    jest.advanceTimersByTime(500 * 2 ** (times - 1) - 1)
    expect(Stream.opened).toHaveLength(times)
    jest.advanceTimersByTime(500 * 2 ** (times - 1) + 1)
    expect(Stream.opened).toHaveLength(times + 1)
  }
  stop()
  const last = Stream.opened.at(-1)
  if (last) last.readyState = 2
  jest.advanceTimersByTime(120_000)
  expect(Stream.opened).toHaveLength(4)
})

test('an edit of the office makes stale what its table says, and nothing else', () => {
  const { client, stale } = clientWith('site', 'shelf', 'book', 'chlorine')
  hear(client, { what: 'edited', thing: 'catalogue' }, 'mine')
  expect(stale()).toEqual(['shelf', 'site'])
  expect(STALE_BY_EDIT.catalogue).toEqual(expect.arrayContaining(['shelf', 'site']))
  hear(client, { what: 'edited', thing: 'chlorine' }, 'mine')
  expect(stale()).toEqual(['chlorine', 'shelf', 'site'])
})

test('forecasts that were recomputed are asked for on lists', () => {
  const { client, stale } = clientWith('due', 'sites', 'round', 'today')
  hear(client, { what: 'forecasts' }, 'mine')
  expect(stale()).toEqual(['due', 'round', 'sites'])
})
