import type { RoadMinutes } from '@evenround/core/round/roads'
import type { Position } from '@evenround/core/units'
import type { FirmScope } from '../../../db/scope'
import { perFirm } from '../../records/per-firm'

/** Doors nearer than about a metre are one place. */
const DECIMALS = 5
export const placeKey = ({ lat, lon }: Position): string => `${lat.toFixed(DECIMALS)},${lon.toFixed(DECIMALS)}`

/** A way that the routing server does not know. */
export const NO_WAY_S = 65_535

/** Seconds to each place by its number, two bytes each. */
export const packed = (seconds: readonly number[]): Buffer => {
  const bytes = Buffer.alloc(seconds.length * 2)
  seconds.forEach((one, at) => {
    bytes.writeUInt16LE(one, at * 2)
  })
  return bytes
}

/**
 * There and back of about one length count as one: a tour drives both kinds, and one that is as long either way is planned many times
 * faster.
 */
const ALIKE_S = 180

interface Row {
  no: number
  place: string
  out_s: Buffer
  back_s: Buffer
}

/** The minutes by road that a firm's routing server gave so far. */
export interface RoadBook {
  /** Changes with every row. */
  version: string
  minutes: RoadMinutes
}

const remembered = perFirm<RoadBook>(50)

/** A firm's book of roads; null where it has no routing server, or that has not answered yet. */
export async function roadBook(scope: FirmScope): Promise<RoadBook | null> {
  const [stands] = await scope.query<{ rows: number; last: Date | null }>(
    'select count(*)::int as rows, max(made_at) as last from road_row where firm_id = $1',
  )
  if (!stands || stands.rows === 0) return null
  const version = `${stands.rows}/${stands.last?.toISOString() ?? ''}`
  return remembered(scope.firmId, version, async () =>
    bookOf(version, await scope.query<Row>('select no, place, out_s, back_s from road_row where firm_id = $1')),
  )
}

function bookOf(version: string, rows: readonly Row[]): RoadBook {
  const byPlace = new Map(rows.map((row) => [row.place, row]))
  const read = (bytes: Buffer, no: number): number => (no * 2 < bytes.length ? bytes.readUInt16LE(no * 2) : NO_WAY_S)
  const seconds = (from: Row, to: Row): number => (from.no > to.no ? read(from.out_s, to.no) : read(to.back_s, from.no))
  return {
    version,
    minutes: (from, to) => {
      const [a, b] = [byPlace.get(placeKey(from)), byPlace.get(placeKey(to))]
      if (!a || !b) return null
      if (a === b) return 0
      const [there, back] = [seconds(a, b), seconds(b, a)]
      if (there === NO_WAY_S) return null
      return back !== NO_WAY_S && Math.abs(there - back) <= ALIKE_S ? (there + back) / 120 : there / 60
    },
  }
}
