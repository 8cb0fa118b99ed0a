import type { CrossingDto } from '@evenround/contract/crossing'
import { CrossingRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { notFound } from '../../http/errors'
import { editVersioned, staleVersion } from '../../http/versions'

const dto = ({ firmId: _, fromEnd, toEnd, seasons, tides, ...rest }: CrossingRow): CrossingDto => ({
  ...rest,
  from: fromEnd,
  to: toEnd,
  ...(seasons.length > 0 ? { seasons } : {}),
  ...(tides ? { tides } : {}),
})

/** The firm's own ferries, causeways and bridges, by name. */
export const crossingsOf = async (scope: FirmScope): Promise<CrossingDto[]> =>
  (await scope.find(CrossingRow, {}, { name: 'ASC', id: 'ASC' })).map(dto)

const sorted = (minutes: readonly number[]): number[] => [...new Set(minutes)].sort((a, b) => a - b)

/**
 * Sailings by season and safe times by day, of the kind that has them. A program of before there were any says nothing of them: what
 * stands is then left as it is.
 */
function ownTimetable(
  kind: CrossingDto['kind'],
  seasons: CrossingDto['seasons'],
  tides: CrossingDto['tides'],
): Partial<Pick<CrossingRow, 'seasons' | 'tides'>> {
  const own: Partial<Pick<CrossingRow, 'seasons' | 'tides'>> = {}
  if (kind !== 'ferry') own.seasons = []
  else if (seasons !== undefined)
    own.seasons = seasons.map((one) => ({ ...one, departures: sorted(one.departures), returns: sorted(one.returns) }))
  if (kind !== 'causeway') own.tides = null
  else if (tides !== undefined) own.tides = Object.keys(tides).length > 0 ? tides : null
  return own
}

/** Adds a crossing (version 0), or edits it on the version that was seen. */
export async function putCrossing(scope: FirmScope, id: string, { version, ...edit }: Omit<CrossingDto, 'id'>): Promise<void> {
  const { kind, from, to, departures, returns, open, seasons, tides, ...rest } = edit
  const patch = {
    ...rest,
    kind,
    fromEnd: from,
    toEnd: to,
    departures: kind === 'ferry' ? sorted(departures) : [],
    returns: kind === 'ferry' ? sorted(returns) : [],
    open: kind === 'causeway' ? open : [],
    ...ownTimetable(kind, seasons, tides),
  }
  const isThere = (await scope.findOne(CrossingRow, { id })) !== null
  // Somebody removed it meanwhile: nothing stands beside the edit.
  if (!isThere && version !== 0) throw staleVersion('crossing', null)
  if (isThere) await editVersioned(scope, CrossingRow, { id, version, patch, what: 'crossing' }, dto)
  else await scope.insert(CrossingRow, { seasons: [], tides: null, ...patch, id, version: 1 })
}

export async function dropCrossing(scope: FirmScope, id: string): Promise<void> {
  const gone = await scope.query('with gone as (delete from crossing where firm_id = $1 and id = $2 returning 1) select * from gone', [id])
  if (gone.length === 0) throw notFound('crossing')
}
