import type { FirmScope } from '../../db/scope'

/**
 * Changes when ways of the firm became others: a crossing was edited, or a routing server knows most of them now, or no longer. Single
 * places that it is asked about later change nothing: a round that is being planned would else be another one every few minutes.
 */
export async function waysStamp(scope: FirmScope): Promise<string> {
  const [row] = await scope.query<{ crossings: string; server: number | null }>(
    `select (select count(*) || '/' || coalesce(sum(version), 0) from crossing where firm_id = $1) as crossings,
       (select version from road_server where firm_id = $1 and known > 0 and known * 2 >= places) as server`,
  )
  return `${row?.crossings ?? ''} ${row?.server ?? 'estimated'}`
}
