import type { FaultDto, SiteDto } from '@evenround/contract/site'
import type { FactOf, SiteMended } from '@evenround/core/visit'
import { useMemo } from 'react'
import { v7 as uuidv7 } from 'uuid'
import { record, useOutbox } from './outbox'

type Fault = Pick<FactOf<'fault-noted'>, 'faultId' | 'systemId' | 'stageId' | 'what' | 'text'>

/** Something seen that is not today's work. */
export const noteFault = (place: { siteId: string; visitId: string }, fault: Fault) => record({ kind: 'fault-noted', ...place, ...fault })

/** What became of it: mended, or the customer does not want it. */
export const settleFault = (siteId: string, { id }: Pick<FaultDto, 'id'>, how: 'done' | 'declined', note: string) =>
  record({ kind: 'fault-settled', siteId, visitId: uuidv7(), faultId: id, how, note })

type Field = SiteMended['field']
/** Lines of a site's own page, said anew at the door; those that stay as they were say nothing. */
export const mendSite = (site: SiteDto, next: Record<Field, string>) => {
  const changed = (Object.keys(next) as Field[]).filter((field) => next[field] !== site[field])
  if (changed.length === 0) return Promise.resolve([])
  return record(
    ...changed.map((field) => ({ kind: 'site-mended' as const, siteId: site.id, visitId: uuidv7(), field, value: next[field] })),
  )
}

/** The site with what was mended on this device and has not reached the server. */
export function useMended(site: SiteDto): SiteDto {
  const entries = useOutbox((outbox) => outbox.entries)
  return useMemo(() => {
    const own = entries.flatMap(({ fact, state }) =>
      state === 'waiting' && fact.kind === 'site-mended' && fact.siteId === site.id ? [fact] : [],
    )
    return { ...site, ...Object.fromEntries(own.map(({ field, value }) => [field, value])) }
  }, [entries, site])
}
