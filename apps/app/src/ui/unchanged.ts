import { useMemo } from 'react'

/** The same object for as long as it says the same, so that what is worked out from it is not worked out again. Plain values only. */
export function useUnchanged<V>(value: V): V {
  const text = JSON.stringify(value)
  return useMemo(() => JSON.parse(text) as V, [text])
}
