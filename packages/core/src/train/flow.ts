import type { OutletNode } from './types'

/** Litres a minute that outlets of a use give: what is reckoned with where nobody measured, and what none of them is above. */
const FLOWS: Record<OutletNode['use'], { usual: number; most: number }> = {
  drinking: { usual: 2, most: 8 },
  ice: { usual: 1, most: 8 },
  appliance: { usual: 6, most: 25 },
  house: { usual: 12, most: 60 },
  hose: { usual: 12, most: 60 },
}
/** A line over the bucket, a drain. */
const OPEN = { usual: 6, most: 60 }

/** Litres a minute at an outlet: its own where it was measured; any other open end where there is none. */
export const flowOf = (outlet: OutletNode | undefined, which: 'usual' | 'most'): number =>
  outlet?.flowLMin ?? (outlet ? FLOWS[outlet.use] : OPEN)[which]
