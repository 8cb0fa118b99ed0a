import { QueryClientProvider, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { act, renderHook } from '@testing-library/react'
import type { ReactNode } from 'react'
import { ApiProblem } from './api'
import { queryClient } from './queries'

const wrapper = ({ children }: { children: ReactNode }) => <QueryClientProvider client={queryClient}>{children}</QueryClientProvider>

/** Fails for as long as it is away. */
function server(code: 'DATABASE_AWAY' | 'NO_RIGHT') {
  const state = { away: true, asked: 0 }
  const answer = async (): Promise<string[]> => {
    state.asked++
    if (state.away) throw new ApiProblem(code, code, code === 'DATABASE_AWAY')
    return ['there']
  }
  return { state, answer }
}
const pass = async (ms: number) => act(async () => jest.advanceTimersByTimeAsync(ms))

beforeEach(() => jest.useFakeTimers())
afterEach(() => {
  queryClient.clear()
  jest.useRealTimers()
})

test('a page that failed for a passing reason comes by itself once the server answers, one of many pages too', async () => {
  const [one, paged] = [server('DATABASE_AWAY'), server('DATABASE_AWAY')]
  const { result } = renderHook(
    () => ({
      one: useQuery({ queryKey: ['one'], queryFn: one.answer }),
      paged: useInfiniteQuery({ queryKey: ['paged'], queryFn: paged.answer, initialPageParam: null, getNextPageParam: () => null }),
    }),
    { wrapper },
  )
  await pass(4_000)
  expect([result.current.one.status, result.current.paged.status]).toEqual(['error', 'error'])
  one.state.away = false
  paged.state.away = false
  await pass(6_000)
  expect(result.current.one.data).toEqual(['there'])
  expect(result.current.paged.data?.pages).toEqual([['there']])
})

test('what will not pass is not asked for again and again', async () => {
  const refused = server('NO_RIGHT')
  renderHook(() => useQuery({ queryKey: ['refused'], queryFn: refused.answer }), { wrapper })
  await pass(60_000)
  expect(refused.state.asked).toBe(1)
})
