import type { MapFeature } from '@evenround/contract/geo'
import type { Position } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useMemo } from 'react'
import { useSites } from '../../data/queries'
import { useRoundMap } from '../../data/round'
import { Waiting } from '../../ui/states'
import { PinMap } from './pin-map'

const NOTHING: readonly MapFeature[] = []

/** The map to set a pin on, with the firm's own sites and the roads near them. */
export function FirmPinMap({ value, onChange }: { value: Position | null; onChange: (at: Position) => void }) {
  const sites = useSites()
  const map = useRoundMap()
  const features = (map.data?.features ?? NOTHING) as readonly MapFeature[]
  const around = useMemo(() => {
    const own = (sites.data?.sites ?? []).flatMap(({ lat, lon }) => (lat == null || lon == null ? [] : [{ lat, lon }]))
    const places = features.flatMap(({ properties, geometry }) =>
      properties.kind === 'place' && geometry.type === 'Point' ? [{ lat: geometry.coordinates[1], lon: geometry.coordinates[0] }] : [],
    )
    return [...own, ...places]
  }, [sites.data, features])
  // The map opens where the firm is, and so not before that is known, unless there is no way to know.
  if ([sites, map].some(({ isPending, fetchStatus }) => isPending && fetchStatus === 'fetching'))
    return <Waiting what={say`Opening the map`} />
  return <PinMap value={value} onChange={onChange} around={around} near={features} />
}
