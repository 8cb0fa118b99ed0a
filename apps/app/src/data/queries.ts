import type { BookFilter } from '@evenround/contract/book'
import type { SignInHints } from '@evenround/contract/firm'
import type { OfflineDto } from '@evenround/contract/offline'
import { keepPreviousData, QueryClient, useInfiniteQuery, useQuery } from '@tanstack/react-query'
import { putAnswer } from './answers'
import { ApiProblem, api, ask, getPlain } from './api'
import { useLive } from './live'

/** How long what was last known is kept on the device: today, the seven days after it, and a day to spare. */
export const KEPT_MS = 9 * 86_400_000
/** Data this old is asked for again when a screen opens, unless the server tells what changes: then it is as good as its last news. */
const FRESH_MS = 15_000
const FRESH_WHILE_TOLD_MS = 600_000
const freshFor = (): number => (useLive.getState().connected ? FRESH_WHILE_TOLD_MS : FRESH_MS)
const TRIES = 2

/** How often a screen that failed for a passing reason asks again by itself. */
const AGAIN_MS = 5_000
const recover = (query: { state: { error: unknown } }): number | false => {
  const { error } = query.state
  return error instanceof ApiProblem && error.retryable ? AGAIN_MS : false
}

export const queryClient = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: freshFor,
      gcTime: KEPT_MS,
      retry: (failures, error) => failures < TRIES && !(error instanceof ApiProblem && !error.retryable),
      retryDelay: (failures) => 500 * 2 ** failures,
      // A failed question is asked again when the network or the person comes back.
      refetchOnReconnect: true,
      // Every screen: whoever looks at a page that failed need not know that it could be asked for again.
      refetchInterval: recover,
      networkMode: 'always',
    },
    mutations: { networkMode: 'always' },
  },
})

export const KEY = {
  me: ['me'],
  today: ['today'],
  week: ['week'],
  stop: (id: string) => ['stop', id],
  sites: ['sites'],
  site: (id: string) => ['site', id],
  shelf: ['shelf'],
  book: ['book'],
  visit: (id: string) => ['visit', id],
  people: ['people'],
  signIns: (id: string) => ['sign-ins', id],
  hints: ['hints'],
  intakes: ['intakes'],
  devices: ['devices'],
  due: (query: unknown) => ['due', query],
  stage: (id: string) => ['stage', id],
  train: (id: string) => ['train', id],
  disinfection: (id: string) => ['disinfection', id],
  setup: (siteId: string) => ['disinfection-setup', siteId],
  disinfections: ['disinfections'],
  chlorine: ['chlorine'],
} as const

/** How old the week on the device may be before it is brought again. */
const KEEP_FRESH_MS = 300_000

const meQuery = { queryKey: KEY.me, queryFn: () => ask(api.me.$get()), staleTime: 300_000 }
const todayQuery = { queryKey: KEY.today, queryFn: () => ask(api.today.$get()) }

/** Asks what the first screen will want, before it is there to ask. */
export function askEarly(path: string): void {
  if (path.startsWith('/sign-in')) return
  void queryClient.prefetchQuery({ ...meQuery, retry: false })
  if (path === '/' || path === '/today') void queryClient.prefetchQuery({ ...todayQuery, retry: false })
}

export const useMe = () => useQuery(meQuery)
export const useToday = () => useQuery(todayQuery)
export const useWeek = (enabled = true) =>
  useQuery({
    queryKey: KEY.week,
    queryFn: () => ask(api.week.$get({ query: {} })),
    enabled,
    // It came with the coming days a moment ago.
    staleTime: KEEP_FRESH_MS,
  })
export const useStop = (id: string) => useQuery(stopQuery(id))
export const useSites = (enabled = true) => useQuery({ queryKey: KEY.sites, queryFn: () => ask(api.sites.$get()), enabled })
export const useSite = (id: string, enabled = true) =>
  useQuery({ queryKey: KEY.site(id), queryFn: () => ask(api.sites[':id'].$get({ param: { id } })), enabled })
export const useShelf = () => useQuery({ queryKey: KEY.shelf, queryFn: () => ask(api.shelf.$get()) })
/** The book a page at a time, the newest first. */
export const useBook = (filter: BookFilter) =>
  useInfiniteQuery({
    queryKey: [...KEY.book, filter],
    queryFn: ({ pageParam }) => ask(api.book.$get({ query: { ...filter, ...(pageParam === null ? {} : { before: pageParam }) } })),
    initialPageParam: null as string | null,
    getNextPageParam: ({ next }) => next,
    placeholderData: keepPreviousData,
  })
export const useVisitPage = (id: string | null) =>
  useQuery({
    queryKey: KEY.visit(id ?? ''),
    queryFn: () => ask(api.visits[':id'].$get({ param: { id: id ?? '' } })),
    enabled: id !== null,
  })
/** Rows a page of the due list: a few screens, so that scrolling never waits. */
const DUE_PAGE = '200'
export const useDue = (query: Record<string, string> | null) =>
  useInfiniteQuery({
    queryKey: KEY.due(query),
    queryFn: ({ pageParam }) => ask(api.due.$get({ query: { ...query, limit: DUE_PAGE, ...(pageParam ? { after: pageParam } : {}) } })),
    initialPageParam: '',
    getNextPageParam: ({ next }) => next,
    enabled: query !== null,
    // The list before stands until the filtered one is there: nothing flickers while somebody types.
    placeholderData: keepPreviousData,
  })
export const useStage = (id: string) => useQuery({ queryKey: KEY.stage(id), queryFn: () => ask(api.stages[':id'].$get({ param: { id } })) })
export const useTrain = (id: string) =>
  useQuery({
    queryKey: KEY.train(id),
    queryFn: () => ask(api.systems[':id'].train.$get({ param: { id } })),
    // What is being drawn is not drawn over.
    staleTime: Number.POSITIVE_INFINITY,
  })
export const useDisinfection = (id: string, enabled = true) => useQuery({ ...disinfectionQuery(id), enabled, refetchInterval: sharedEvery })
export const useSetup = (siteId: string | null) =>
  useQuery({
    queryKey: KEY.setup(siteId ?? ''),
    queryFn: () => ask(api.sites[':id']['disinfection-setup'].$get({ param: { id: siteId ?? '' } })),
    enabled: siteId !== null,
  })
export const useDisinfections = () => useQuery({ queryKey: KEY.disinfections, queryFn: () => ask(api.disinfections.$get({ query: {} })) })
export const useChlorine = () => useQuery({ queryKey: KEY.chlorine, queryFn: () => ask(api.chlorine.$get()) })
export const useCertificate = (id: string) =>
  useQuery({
    queryKey: ['certificate', id],
    queryFn: () => ask(api.disinfections[':id'].certificate.$get({ param: { id } })),
  })
export const usePeople = () => useQuery({ queryKey: KEY.people, queryFn: () => ask(api.people.$get()) })
export const useSignIns = (id: string) =>
  useQuery({ queryKey: KEY.signIns(id), queryFn: () => ask(api.people[':id']['sign-ins'].$get({ param: { id } })) })
export const useSignInHints = () =>
  useQuery({ queryKey: KEY.hints, queryFn: () => getPlain<SignInHints>('/api/sign-in-hints'), staleTime: Number.POSITIVE_INFINITY })

const disinfectionQuery = (id: string) => ({
  queryKey: KEY.disinfection(id),
  queryFn: () => ask(api.disinfections[':id'].$get({ param: { id } })),
})
/** What another phone reads at this job stands here soon, also where no news come: the clock is shared. */
const SHARED_MS = 15_000
const sharedEvery = (query: { state: { error: unknown } }): number | false =>
  recover(query) ||
  (useLive.getState().connected || (query.state.error instanceof ApiProblem && query.state.error.code !== 'OFFLINE') ? false : SHARED_MS)

const stopQuery = (id: string) => ({ queryKey: KEY.stop(id), queryFn: () => ask(api.stops[':id'].$get({ param: { id } })) })

/** Puts the coming days' answers where each screen looks for its own. */
function keepWeek({ today, week, stops, visits, disinfections }: OfflineDto, askedMs: number): void {
  const put = (key: readonly unknown[], page: unknown): void => putAnswer(queryClient, key, page, askedMs)
  put(KEY.today, today)
  put(KEY.week, week)
  for (const page of stops) put(KEY.stop(page.stop.id), page)
  for (const { id, page } of visits) put(KEY.visit(id), page)
  for (const page of disinfections) put(KEY.disinfection(page.id), page)
}

/** Brings the coming days onto the device in one answer. */
export const offlineQuery = {
  queryKey: ['offline'],
  queryFn: async () => {
    const askedMs = Date.now()
    const answer = await ask(api.offline.$get({ query: { days: '7' } }))
    keepWeek(answer, askedMs)
    return answer.stops.length
  },
  staleTime: KEEP_FRESH_MS,
  retry: false,
} as const

/** What moving a stop changes: asked for again. */
export function refreshDays(): void {
  for (const root of ['today', 'week', 'stop', 'van', 'offline']) void queryClient.invalidateQueries({ queryKey: [root] })
}
