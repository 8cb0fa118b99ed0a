import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { api, ask } from './api'

/** What the firm has by these letters; asked for from two on. */
export const useFound = (q: string) =>
  useQuery({
    queryKey: ['found', q],
    queryFn: () => ask(api.search.$get({ query: { q } })),
    enabled: q.length >= 2,
    // What was found stands until the next letters are answered.
    placeholderData: keepPreviousData,
    staleTime: 10_000,
  })
