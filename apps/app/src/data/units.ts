import type { MeDto } from '@evenround/contract/firm'
import { METRIC, type ShownUnits } from '@evenround/core/units'
import { useMemo } from 'react'
import { useMe } from './queries'

export const unitsOf = (firm: Pick<MeDto['firm'], 'units' | 'gallon'>): ShownUnits => ({ ...firm.units, gallon: firm.gallon })

/** The units this firm's screens speak; metric until the firm is known. */
export function useUnits(): ShownUnits {
  const firm = useMe().data?.firm
  return useMemo(() => (firm ? unitsOf(firm) : METRIC), [firm])
}
