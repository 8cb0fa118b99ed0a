import type { MeDto } from '@evenround/contract/firm'
import { METRIC, type ShownDimension, type ShownUnits, unitOf } from '@evenround/core/units'
import { useMemo } from 'react'
import { useMe } from './queries'

export const unitsOf = (firm: Pick<MeDto['firm'], 'units' | 'gallon'>): ShownUnits => ({ ...firm.units, gallon: firm.gallon })

/** The units this firm's screens speak; metric until the firm is known. */
export function useUnits(): ShownUnits {
  const firm = useMe().data?.firm
  return useMemo(() => (firm ? unitsOf(firm) : METRIC), [firm])
}

/** A dimension as a field asks for it: its unit as it is parsed, and as it is written. */
export function askedIn<D extends ShownDimension>(dimension: D, units: ShownUnits): { dimension: D; unit: string; unitText: string } {
  const { text, parse } = unitOf(dimension, units)
  return { dimension, unit: parse, unitText: text }
}
