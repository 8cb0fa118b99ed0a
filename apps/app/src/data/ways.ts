import type { WaysDto } from '@evenround/contract/road-server'
import { useQuery } from '@tanstack/react-query'
import { api, ask } from './api'
import { queryClient } from './queries'

const WAYS = ['times', 'ways'] as const
/** While a routing server is being asked, it is looked how far it has come. */
const ASKED_AGAIN_MS = 2000
export const useWays = () =>
  useQuery({
    queryKey: WAYS,
    queryFn: () => ask(api.times.ways.$get()) as Promise<WaysDto>,
    refetchInterval: ({ state }) => (state.data?.roadServer.asking ? ASKED_AGAIN_MS : false),
  })

const changed = async (ways: WaysDto): Promise<void> => {
  queryClient.setQueryData<WaysDto>(WAYS, ways)
  await queryClient.invalidateQueries({ queryKey: ['round'] })
}

/** Names the routing server; null does without one. */
export const saveRoadServer = async (address: string | null, version: number): Promise<void> =>
  changed((await ask(api.times['road-server'].$put({ json: { address, version } }))) as WaysDto)
export const askRoadServer = async (): Promise<void> => changed((await ask(api.times['road-server'].ask.$post())) as WaysDto)
