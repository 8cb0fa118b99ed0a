import type { RoundMark, RoundPage, RoundRun, SetPlan } from '@evenround/contract/rounds'
import { useQuery } from '@tanstack/react-query'
import { v7 as uuidv7 } from 'uuid'
import { ApiProblem, api, ask } from './api'
import { useLive } from './live'
import { queryClient } from './queries'

const ROUND = ['round'] as const
/** Somebody else may be planning: their moves come in by themselves, also where no news come. */
const SHARED_MS = 12_000

export const useRound = () =>
  useQuery({
    queryKey: ROUND,
    queryFn: () => ask(api.round.$get()) as Promise<RoundPage>,
    refetchInterval: ({ state: { error } }) =>
      useLive.getState().connected || (error instanceof ApiProblem && !error.retryable) ? false : SHARED_MS,
  })

/** What an act answers with stands on the screen at once. */
const show = (page: RoundPage): RoundPage => {
  queryClient.setQueryData(ROUND, page)
  return page
}
const asPage = async (answer: Promise<unknown>): Promise<RoundPage> => show((await answer) as RoundPage)

export interface Spot {
  technician: string
  day: number
}

export const carryVisit = (page: RoundPage, visitId: string, from: Spot | null, to: (Spot & { at: number }) | null) =>
  asPage(ask(api.round.moves.$post({ json: { setId: page.set.id, visitId, from, to } })))

export const putPlan = (version: number, setId: string, days: SetPlan['days']) =>
  asPage(ask(api.round.draft.$put({ json: { version, setId, days } })))

export const lookAnew = () => asPage(ask(api.round.fresh.$post()))

export const markVisit = (mark: { visitId: string; kind: RoundMark['kind']; day: string; window?: [number, number]; why?: string }) =>
  asPage(ask(api.round.marks.$post({ json: { window: null, why: '', ...mark, id: uuidv7() } })))

export const unmark = (id: string) => asPage(ask(api.round.marks[':id'].$delete({ param: { id } })))

export const askForVisit = (extra: { systemId: string; workMin: number; fromDay: string; toDay: string; why: string }) =>
  asPage(ask(api.round.extras.$post({ json: { ...extra, id: uuidv7(), tasks: [] } })))

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
  let run = (await ask(api.round.runs.$post({ json: { id, setId } }))) as RoundRun
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
