import type { Position } from '../../units'
import type { Crossing } from './over-water'
import type { Travel } from './travel'

interface Placed extends Position {
  id: string
  island: string
}

/** What the way takes of a crossing, and nothing else that a firm keeps of it. */
const asWay = ({ id, kind, from, to, minutes, boardMin, departures, returns, open }: Crossing): Crossing => ({
  id,
  kind,
  from,
  to,
  minutes,
  boardMin,
  departures,
  returns,
  open,
})

/**
 * Estimated travel between places: over land within an area, by the firm's own crossings between areas. What no crossing joins is not
 * reached that day.
 */
export const travelAcross = (places: readonly Placed[], crossings: readonly Crossing[], winding: number): Travel => ({
  places: places.map(({ id }) => id),
  travelMin: [],
  travelByHour: [],
  sails: [],
  estimated: true,
  land: {
    lat: places.map(({ lat }) => lat),
    lon: places.map(({ lon }) => lon),
    winding,
    ...(crossings.length > 0 ? { water: { island: places.map(({ island }) => island), crossings: crossings.map(asWay) } } : {}),
  },
})
