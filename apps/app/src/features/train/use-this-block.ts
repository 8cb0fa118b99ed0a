import { create } from 'zustand'
import type { VisitPlace } from '../../data/visit-acts'

type Shown = 'one-by-one' | 'at-once'
const useChosen = create<{ key: string | null; shown: Shown }>(() => ({ key: null, shown: 'at-once' }))

/**
 * How somebody who otherwise ticks blocks wants this one: step by step, or (where everything is new) at once all the same. Kept from step
 * to step, forgotten with the next block; null where nothing was chosen.
 */
export function useThisBlock({ visitId }: VisitPlace, block: string): [Shown | null, (shown: Shown) => void] {
  const { key, shown } = useChosen()
  const own = `${visitId}/${block}`
  return [key === own ? shown : null, (next) => useChosen.setState({ key: own, shown: next })]
}
