import { stateAfter } from '@evenround/contract/draft-change'
import type {
  DraftChange,
  RoundMark,
  RoundPage,
  RoundRun,
  RoundSet,
  RoundState,
  RoundWeek,
  SetPlan,
  TodaySpotDto,
} from '@evenround/contract/rounds'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useEffect, useMemo } from 'react'
import { v7 as uuidv7 } from 'uuid'
import { ApiProblem, api, ask } from './api'
import { useLive } from './live'
import { queryClient } from './queries'

const ROUND = ['round'] as const
const SETS = 'round-set'
/** Somebody else may be planning: their moves come in by themselves, also where no news come. */
const SHARED_MS = 12_000

/** What is to be planned; it never changes under its id and is asked for once. */
const setQuery = (id: string) => ({
  queryKey: [SETS, id],
  queryFn: async () => (await ask(api.round.sets[':id'].$get({ param: { id } }))) as RoundSet,
  staleTime: Number.POSITIVE_INFINITY,
})

/** The plan in the making, what was decided and what is published; begun for the day by whoever looks first. */
async function askState(): Promise<RoundState> {
  const seen = (await ask(api.round.$get())) as RoundState | null
  const state = seen ?? ((await ask(api.round.open.$post())) as RoundState)
  // What stands on the screen stays until the set is on this device too.
  await queryClient.fetchQuery(setQuery(state.setId))
  return state
}

const joined = ({ setId: _, ...state }: RoundState, set: RoundSet): RoundPage => ({ set, ...state })

export function useRound() {
  const state = useQuery({
    queryKey: ROUND,
    queryFn: askState,
    refetchInterval: ({ state: { error } }) =>
      useLive.getState().connected || (error instanceof ApiProblem && !error.retryable) ? false : SHARED_MS,
  })
  const setId = state.data?.setId
  const set = useQuery({ ...setQuery(setId ?? ''), enabled: setId !== undefined })
  useEffect(() => {
    // Earlier sets are of no more use, here or on the device.
    queryClient.removeQueries({ queryKey: [SETS], predicate: ({ queryKey }) => setId !== undefined && queryKey[1] !== setId })
  }, [setId])
  const page = useMemo(() => (state.data && set.data ? joined(state.data, set.data) : undefined), [state.data, set.data])
  return { data: page, error: state.error ?? set.error, refetch: () => Promise.all([state.refetch(), set.data ? null : set.refetch()]) }
}

/** One week of the round with what the whole comes to, for the time until the whole is there; undefined before it is. */
export function useRoundWeek(week: string | null, wanted: boolean): RoundWeek | undefined {
  const { data } = useQuery({
    queryKey: ['round-week', week],
    queryFn: async () => (await ask(api.round.week.$get({ query: week === null ? {} : { week } }))) as RoundWeek | null,
    enabled: wanted,
    placeholderData: keepPreviousData,
  })
  return data ?? undefined
}

/** The whole round of a state: its set from this device, or asked for. */
const pageOf = async (state: RoundState): Promise<RoundPage> => joined(state, await queryClient.fetchQuery(setQuery(state.setId)))

/** What an act answers with stands on the screen at once. */
async function shown(answer: Promise<unknown>): Promise<RoundPage> {
  const state = (await answer) as RoundState
  const page = await pageOf(state)
  queryClient.setQueryData(ROUND, state)
  return page
}
/** A change goes into the plan that stands here; where that is another version, the round is asked for. */
async function changed(answer: Promise<unknown>): Promise<RoundPage> {
  const change = (await answer) as DraftChange
  const known = queryClient.getQueryData<RoundState>(ROUND)
  const next = (known && stateAfter(known, change)) ?? (await askState())
  queryClient.setQueryData(ROUND, next)
  return pageOf(next)
}

export interface Spot {
  technician: string
  day: number
}

export const carryVisit = (page: RoundPage, visitId: string, from: Spot | null, to: (Spot & { at: number }) | null) =>
  changed(ask(api.round.moves.$post({ json: { setId: page.set.id, visitId, from, to } })))

export const putPlan = (version: number, setId: string, days: SetPlan['days']) =>
  changed(ask(api.round.draft.$put({ json: { version, setId, days } })))

export const lookAnew = () => shown(ask(api.round.fresh.$post()))

export const markVisit = (mark: { visitId: string; kind: RoundMark['kind']; day: string; window?: [number, number]; why?: string }) =>
  shown(ask(api.round.marks.$post({ json: { window: null, why: '', ...mark, id: uuidv7() } })))

export const unmark = (id: string) => shown(ask(api.round.marks[':id'].$delete({ param: { id } })))

export const askForVisit = (extra: { systemId: string; workMin: number; fromDay: string; toDay: string; why: string }) =>
  shown(ask(api.round.extras.$post({ json: { ...extra, id: uuidv7(), tasks: [] } })))

/** Where something that cannot wait could go into today, the cheapest place first. */
export const placesToday = async (wanted: { systemId: string; workMin: number }): Promise<TodaySpotDto[]> =>
  (await ask(api.round.today.spots.$post({ json: wanted }))).spots

export async function putToday(
  wanted: { systemId: string; workMin: number; why: string },
  { technicianId, at }: Pick<TodaySpotDto, 'technicianId' | 'at'>,
): Promise<void> {
  await ask(api.round.today.$post({ json: { ...wanted, technicianId, at, id: uuidv7(), tasks: [] } }))
  for (const root of ['today', 'week', 'round-week']) void queryClient.invalidateQueries({ queryKey: [root] })
}

export async function publishRound(version: number): Promise<number> {
  const { number } = await ask(api.round.publications.$post({ json: { version } }))
  for (const root of ['round', 'round-publications', 'today', 'week', 'stop', 'shelf', 'van', 'site'])
    void queryClient.invalidateQueries({ queryKey: [root] })
  return number
}

export const useDraftChanges = (version: number, enabled: boolean) =>
  useQuery({ queryKey: ['round-changes', version], queryFn: () => ask(api.round.changes.$get()), enabled })

export const usePublications = () => useQuery({ queryKey: ['round-publications'], queryFn: () => ask(api.round.publications.$get()) })
export const usePublishedChanges = (number: number | null) =>
  useQuery({
    queryKey: ['round-publications', number],
    queryFn: () => ask(api.round.publications[':number'].changes.$get({ param: { number: String(number) } })),
    enabled: number !== null,
  })

export const useRoundMap = () =>
  useQuery({ queryKey: ['round-map'], queryFn: () => ask(api.round.map.$get()), staleTime: Number.POSITIVE_INFINITY })

const WATCH_MS = 700
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** Has the server plan, watched until it is over; `stopped` is asked each time and calls it off. */
export async function planThere(
  setId: string,
  onProgress: (share: number, cost: number | null) => void,
  stopped: () => boolean,
): Promise<RoundRun> {
  const id = uuidv7()
  await ask(api.round.runs.$post({ json: { id, setId } }))
  return watchRun(id, onProgress, stopped)
}

/** Watches a run of the server until it is over; `stopped` is asked each time and calls it off. */
export async function watchRun(
  id: string,
  onProgress: (share: number, cost: number | null) => void,
  stopped: () => boolean,
): Promise<RoundRun> {
  let run = (await ask(api.round.runs[':id'].$get({ param: { id } }))) as RoundRun
  let calledOff = false
  while (run.state === 'waiting' || run.state === 'running') {
    onProgress(run.share, run.cost)
    await sleep(WATCH_MS)
    if (stopped() && !calledOff) {
      calledOff = true
      run = (await ask(api.round.runs[':id'].cancel.$post({ param: { id } }))) as RoundRun
    } else run = (await ask(api.round.runs[':id'].$get({ param: { id } }))) as RoundRun
  }
  return run
}

export async function sayDayOff(off: {
  personId: string
  fromDay: string
  toDay: string
  why: string
  source: 'sick' | 'typed'
}): Promise<void> {
  await ask(api.times['days-off'].$post({ json: { ...off, id: uuidv7() } }))
}

/** Applies a plan of the server; the version is that of the plan in the making as it was seen. */
export async function takeRun(id: string, version: number): Promise<void> {
  await ask(api.round.runs[':id'].take.$post({ param: { id }, json: { version } }))
}
export async function discardRun(id: string): Promise<void> {
  await ask(api.round.runs[':id'].discard.$post({ param: { id } }))
}
