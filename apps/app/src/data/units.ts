import { METRIC, type ShownUnits } from '@evenround/core/units'
import { useMemo } from 'react'
import { useMe } from './queries'

/** The units this firm's screens speak; metric until the firm is known. */
export function useUnits(): ShownUnits {
  const firm = useMe().data?.firm
  return useMemo(() => (firm ? { ...firm.units, gallon: firm.gallon } : METRIC), [firm])
}
