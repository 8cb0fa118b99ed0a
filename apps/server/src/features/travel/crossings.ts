import type { CrossingDto } from '@evenround/contract/crossing'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'

interface Row {
  id: string
  kind: CrossingDto['kind']
  name: string
  from_area: string
  from_lat: number
  from_lon: number
  to_area: string
  to_lat: number
  to_lon: number
  minutes: number
  board_min: number
  departures: number[]
  returns: number[]
  open: [number, number][]
  version: number
}

const dto = (row: Row): CrossingDto => ({
  id: row.id,
  kind: row.kind,
  name: row.name,
  from: { area: row.from_area, lat: row.from_lat, lon: row.from_lon },
  to: { area: row.to_area, lat: row.to_lat, lon: row.to_lon },
  minutes: row.minutes,
  boardMin: row.board_min,
  departures: row.departures,
  returns: row.returns,
  open: row.open,
  version: row.version,
})

/** The firm's own ferries, causeways and bridges, by name. */
export const crossingsOf = async (scope: FirmScope): Promise<CrossingDto[]> =>
  (await scope.query<Row>('select * from crossing where firm_id = $1 order by name, id')).map(dto)

const sorted = (minutes: readonly number[]): number[] => [...new Set(minutes)].sort((a, b) => a - b)

/** Adds a crossing (version 0), or edits it on the version that was seen. */
export async function putCrossing(scope: FirmScope, id: string, { version, ...edit }: Omit<CrossingDto, 'id'>): Promise<void> {
  const [before] = await scope.query<Row>('select * from crossing where firm_id = $1 and id = $2', [id])
  if ((before?.version ?? 0) !== version)
    throw new ApiError('STALE_VERSION', 'Somebody changed this crossing meanwhile. Look at both and save again.', {
      current: before ? dto(before) : null,
    })
  const { kind, name, from, to, minutes, boardMin, departures, returns, open } = edit
  await scope.query(
    `insert into crossing (firm_id, id, kind, name, from_area, from_lat, from_lon, to_area, to_lat, to_lon, minutes, board_min, departures, returns, open, version)
     values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16)
     on conflict (firm_id, id) do update set kind = $3, name = $4, from_area = $5, from_lat = $6, from_lon = $7, to_area = $8, to_lat = $9, to_lon = $10,
       minutes = $11, board_min = $12, departures = $13, returns = $14, open = $15, version = $16`,
    [
      id,
      kind,
      name,
      from.area,
      from.lat,
      from.lon,
      to.area,
      to.lat,
      to.lon,
      minutes,
      boardMin,
      kind === 'ferry' ? sorted(departures) : [],
      kind === 'ferry' ? sorted(returns) : [],
      JSON.stringify(kind === 'causeway' ? open : []),
      version + 1,
    ],
  )
}

export async function dropCrossing(scope: FirmScope, id: string): Promise<void> {
  const gone = await scope.query('with gone as (delete from crossing where firm_id = $1 and id = $2 returning 1) select * from gone', [id])
  if (gone.length === 0) throw notFound('crossing')
}
