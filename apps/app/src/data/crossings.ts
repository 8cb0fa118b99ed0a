import type { CrossingDto } from '@evenround/contract/crossing'
import { useQuery } from '@tanstack/react-query'
import { api, ask } from './api'
import { queryClient } from './queries'

const CROSSINGS = ['times', 'crossings'] as const
type All = { crossings: CrossingDto[] }

export const useCrossings = () => useQuery({ queryKey: CROSSINGS, queryFn: () => ask(api.times.crossings.$get()) as Promise<All> })

/** Every way of the round is worked out anew. */
const changed = async (all: All): Promise<void> => {
  queryClient.setQueryData<All>(CROSSINGS, all)
  await queryClient.invalidateQueries({ queryKey: ['round'] })
}

/** Version 0 adds it. */
export const saveCrossing = async (id: string, crossing: Omit<CrossingDto, 'id'>): Promise<void> =>
  changed((await ask(api.times.crossings[':id'].$put({ param: { id }, json: crossing }))) as All)
export const dropCrossing = async (id: string): Promise<void> =>
  changed((await ask(api.times.crossings[':id'].$delete({ param: { id } }))) as All)
