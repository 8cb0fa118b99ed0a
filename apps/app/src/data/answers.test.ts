import { QueryClient, QueryObserver } from '@tanstack/react-query'
import { until } from '../testing/device'
import { amend, newsCame, putAnswer } from './answers'

interface Page {
  counter: number
}
const STOP = ['stop', 'a']
const AT_NOON = Date.parse('2026-11-25T12:00:00Z')

function device() {
  const client = new QueryClient()
  const counter = (): number | undefined => client.getQueryData<Page>(STOP)?.counter
  const stale = (): boolean | undefined => client.getQueryState(STOP)?.isInvalidated
  return { client, counter, stale }
}

// The clock alone stands still: timers and promises go on.
beforeEach(() => {
  jest.useFakeTimers({ now: AT_NOON, doNotFake: ['setTimeout', 'clearTimeout', 'queueMicrotask', 'nextTick', 'setImmediate'] })
})
afterEach(() => {
  jest.useRealTimers()
})
const clockAt = (ms: number): void => {
  jest.setSystemTime(AT_NOON + ms)
}

test('what is to be asked for again stays so when other news change the page, or leave it as it was', () => {
  const { client, counter, stale } = device()
  client.setQueryData<Page>(STOP, { counter: 1 })
  void client.invalidateQueries({ queryKey: STOP })
  amend<Page>(client, ['stop'], (page) => page)
  expect([counter(), stale()]).toEqual([1, true])
  amend<Page>(client, ['stop'], () => ({ counter: 2 }))
  expect([counter(), stale()]).toEqual([2, true])
})

test('a page nothing changed of is as old as it was; one that is not there is not made', () => {
  const { client } = device()
  client.setQueryData<Page>(STOP, { counter: 1 })
  clockAt(5_000)
  amend<Page>(client, ['stop'], (page) => page)
  amend<Page>(client, ['visit', 'v'], () => ({ counter: 9 }))
  expect(client.getQueryState(STOP)?.dataUpdatedAt).toBe(AT_NOON)
  expect(client.getQueryData(['visit', 'v'])).toBeUndefined()
})

test('a question on its way when the page changed is asked anew: its answer may be of before', async () => {
  const { client, counter } = device()
  const answers: ((page: Page) => void)[] = []
  const observer = new QueryObserver<Page>(client, { queryKey: STOP, queryFn: () => new Promise((resolve) => answers.push(resolve)) })
  const unwatch = observer.subscribe(() => undefined)
  answers[0]?.({ counter: 1 })
  await until(() => counter() === 1)
  void client.invalidateQueries({ queryKey: STOP })
  await until(() => answers.length === 2)
  amend<Page>(client, ['stop'], () => ({ counter: 2 }))
  await until(() => answers.length === 3)
  answers[1]?.({ counter: 1 })
  answers[2]?.({ counter: 2 })
  await until(() => client.isFetching() === 0)
  expect(counter()).toBe(2)
  unwatch()
})

describe('the coming days, asked for at noon', () => {
  test('stand where nothing younger does', () => {
    const { client, counter, stale } = device()
    putAnswer<Page>(client, STOP, { counter: 1 }, AT_NOON)
    expect([counter(), stale()]).toEqual([1, false])
    expect(client.getQueryState(STOP)?.dataUpdatedAt).toBe(AT_NOON)
  })
  test('do not take the place of a page that came or changed since', () => {
    const { client, counter } = device()
    clockAt(1_000)
    client.setQueryData<Page>(STOP, { counter: 2 })
    clockAt(4_000)
    putAnswer<Page>(client, STOP, { counter: 1 }, AT_NOON)
    expect(counter()).toBe(2)
  })
  test('leave what was marked since to be asked for again', () => {
    const { client, counter, stale } = device()
    client.setQueryData<Page>(STOP, { counter: 0 }, { updatedAt: AT_NOON - 60_000 })
    clockAt(1_000)
    void client.invalidateQueries({ queryKey: STOP })
    clockAt(4_000)
    putAnswer<Page>(client, STOP, { counter: 1 }, AT_NOON)
    expect([counter(), stale()]).toEqual([1, true])
  })
  test('are asked for again where news came meanwhile of a page that was not there yet', () => {
    const { client, counter, stale } = device()
    clockAt(1_000)
    newsCame()
    clockAt(4_000)
    putAnswer<Page>(client, STOP, { counter: 1 }, AT_NOON)
    expect([counter(), stale()]).toEqual([1, true])
  })
})
