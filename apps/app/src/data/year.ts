import type { YearAsk, YearPage } from '@evenround/contract/year-page'
import { useQuery } from '@tanstack/react-query'
import { v7 as uuidv7 } from 'uuid'
import { api, ask } from './api'
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
