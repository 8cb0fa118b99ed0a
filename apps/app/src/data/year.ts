import type { YearAsk, YearPage, YearWork, YearWorked } from '@evenround/contract/year-page'
import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { v7 as uuidv7 } from 'uuid'
import { api, ask } from './api'
import { isOffline } from './day'
import { planYearHere } from './plan-here'
import { queryClient } from './queries'

const YEAR = ['year'] as const

export const useYear = () => useQuery({ queryKey: YEAR, queryFn: async () => (await ask(api.year.$get())) as YearPage })

async function shown(answer: Promise<unknown>): Promise<YearPage> {
  const page = (await answer) as YearPage
  queryClient.setQueryData(YEAR, page)
  return page
}

type Without<A, K extends string> = A extends unknown ? Omit<A, K> : never

/** Has a year planned; it comes as an offer. */
export const planTheYear = (wanted: Without<YearAsk, 'id'>) =>
  shown(ask(api.year.plans.$post({ json: { ...wanted, id: uuidv7() } as YearAsk })))

/** The round is made by the year, and another base is somebody's working times: both are asked for again. */
async function inForce(answer: Promise<unknown>): Promise<YearPage> {
  const page = await shown(answer)
  for (const root of ['round', 'round-week', 'times']) void queryClient.invalidateQueries({ queryKey: [root] })
  return page
}
export const applyYear = (id: string) => inForce(ask(api.year.plans[':id'].apply.$post({ param: { id } })))
export const undoYear = (id: string) => inForce(ask(api.year.plans[':id'].undo.$post({ param: { id } })))
export const discardYear = (id: string) => shown(ask(api.year.plans[':id'].discard.$post({ param: { id } })))

/** What this device would plan the year from without a network: brought while there is one. */
export const useYearWork = (wanted: boolean) =>
  useQuery({
    queryKey: ['year-work'],
    queryFn: async () => (await ask(api.year.work.$get())).work as YearWork | null,
    enabled: wanted,
  })

/** A year that was planned on this device. */
export interface YearHere {
  from: string
  worked: YearWorked
}

/** Plans the year by the server; without a network on this device, from what it knows. Null where the server did. */
export async function planTheYearAnywhere(work: YearWork | null | undefined): Promise<YearHere | null> {
  try {
    await planTheYear({ kind: 'even' })
    return null
  } catch (error) {
    if (!isOffline(error) || !work) throw error
    const worked = await planYearHere(work)
    if (worked === null) throw error
    return { from: worked.known.from, worked }
  }
}

/** Hands a year that was planned here to the server, and puts it to work: it is gone on with from what is known there by now. */
export async function applyYearHere({ from, worked }: YearHere): Promise<YearPage> {
  const page = await planTheYear({ kind: 'here', from, visits: worked.visits })
  if (page.offered === null) throw new Error(say`Somebody decided about another plan meanwhile. Plan the year again.`)
  return applyYear(page.offered.id)
}
