import { createAsyncStoragePersister } from '@tanstack/query-async-storage-persister'
import type { Query } from '@tanstack/react-query'
import { persistQueryClient } from '@tanstack/react-query-persist-client'
import { createStore, del, get, set } from 'idb-keyval'
import { KEPT_MS, queryClient } from './queries'
import { mayGo } from './room'

/** What a day at the doors needs, and nothing else: lists that change by the minute are asked for. */
const KEPT = [
  'me',
  'today',
  'week',
  'stop',
  'visit',
  'site',
  'disinfection',
  'disinfection-setup',
  'round',
  'round-set',
  'round-map',
  'year',
  'year-work',
]
/** Changes with the shape of what is kept: older copies are then left behind. */
const SHAPE = '4'

const disk = createStore('even-round-kept', 'answers')
const persister = createAsyncStoragePersister({
  storage: {
    getItem: async (key: string) => (await get<string>(key, disk)) ?? null,
    setItem: (key: string, value: string) => set(key, value, disk),
    removeItem: (key: string) => del(key, disk),
  },
  key: 'answers',
})

// The server has it all.
mayGo(async () => persister.removeClient())

/** Puts back what was last known, and keeps it up to date from here on. */
export function keepAnswers(): void {
  const [, restored] = persistQueryClient({
    queryClient,
    persister,
    maxAge: KEPT_MS,
    buster: SHAPE,
    dehydrateOptions: {
      shouldDehydrateQuery: ({ queryKey, state }: Query) => state.data !== undefined && KEPT.includes(String(queryKey[0])),
    },
  })
  // What was kept is shown at once and asked for again: it may be a week old. A device that keeps nothing works as long as there is a network.
  restored.then(
    () => queryClient.invalidateQueries({ predicate: ({ state }) => state.data !== undefined }, { cancelRefetch: false }),
    () => undefined,
  )
}

/** Nothing of one person stays for the next. */
export async function forgetAnswers(): Promise<void> {
  queryClient.clear()
  await persister.removeClient()
}
