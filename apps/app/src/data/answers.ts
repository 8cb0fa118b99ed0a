import type { QueryClient, QueryKey } from '@tanstack/react-query'

/** When news last said that something has changed, device's clock, ms: an answer asked for before does not know of it. */
let lastNewsMs = 0
export const newsCame = (): void => {
  lastNewsMs = Date.now()
}

const markStale = (client: QueryClient, queryKey: QueryKey): void =>
  void client.invalidateQueries({ queryKey, exact: true, refetchType: 'none' })

/**
 * Changes what the device shows and keeps of all answers under a key; those that `change` gives back as they were are left alone. What is
 * to be asked for again stays so, and a question that is on its way is asked anew: its answer may not know of the change.
 */
export function amend<T>(client: QueryClient, key: QueryKey, change: (answer: T) => T): void {
  newsCame()
  for (const { queryKey, state } of client.getQueryCache().findAll({ queryKey: key })) {
    const before = state.data as T | undefined
    if (before === undefined) continue
    const after = change(before)
    if (after === before) continue
    const { isInvalidated, fetchStatus } = state
    client.setQueryData(queryKey, after)
    if (isInvalidated) markStale(client, queryKey)
    if (fetchStatus === 'fetching') void client.refetchQueries({ queryKey, exact: true })
  }
}

/**
 * Puts a page that came with a larger answer where its screen looks for it, unless what stands there is younger than the question. What is
 * to be asked for again stays so, and so does what news spoke of after the question.
 */
export function putAnswer<T>(client: QueryClient, queryKey: QueryKey, page: T, askedMs: number): void {
  const state = client.getQueryState<T>(queryKey)
  if (state && state.dataUpdatedAt > askedMs) return
  client.setQueryData<T>(queryKey, page, { updatedAt: askedMs })
  if (state?.isInvalidated || (!state && lastNewsMs > askedMs)) markStale(client, queryKey)
}
