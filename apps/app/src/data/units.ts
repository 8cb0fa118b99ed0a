import { METRIC, type ShownUnits } from '@evenround/core/units'
import { useMe } from './queries'

/** The units this firm's screens speak; metric until the firm is known. */
export function useUnits(): ShownUnits {
  const firm = useMe().data?.firm
  return firm ? { ...firm.units, gallon: firm.gallon } : METRIC
}
