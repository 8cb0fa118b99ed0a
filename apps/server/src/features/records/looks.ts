import type { LooksDto } from '@evenround/contract/export'
import type { FirmScope } from '../../db/scope'
import type { Deps, Who } from '../../http/env'

interface Look {
  firmId: string
  personId: string
  siteId: string
  at: Date
}

/** By the hour: the firm's day, which the database works out, never changes within one. */
const keyOf = ({ firmId, personId, siteId, at }: Look): string => `${firmId} ${personId} ${siteId} ${at.toISOString().slice(0, 13)}`
/** What this process has noted already; any more would only be noted a second time for nothing. */
const MOST_KNOWN = 50_000
const known = new Set<string>()

/**
 * A customer's page, and that it was opened: the first time of the firm's day somebody does is written down with it, and what cannot be
 * written down is not given out.
 */
export async function lookedAt<T>(
  { inFirm, now }: Pick<Deps, 'inFirm' | 'now'>,
  { firmId, personId }: Pick<Who, 'firmId' | 'personId'>,
  siteId: string,
  page: (scope: FirmScope) => Promise<T>,
): Promise<T> {
  const look = { firmId, personId, siteId, at: now() }
  const shown = await inFirm(firmId, async (scope) => {
    const made = await page(scope)
    if (!known.has(keyOf(look)))
      await scope.query(
        `insert into customer_look (firm_id, day, person_id, opened_id, at)
         select $1, to_char($4::timestamptz at time zone time_zone, 'YYYY-MM-DD'), $2, $3, $4 from firm where firm_id = $1 on conflict do nothing`,
        [personId, siteId, look.at],
      )
    return made
  })
  // For the next hour nothing more is to be written.
  if (known.size >= MOST_KNOWN) known.clear()
  known.add(keyOf(look))
  return shown
}

const DAYS_SHOWN = 31
const NAMES_SHOWN = 12

/** Who opened whose page in the last month, a line for each day and person, the latest first. */
export async function looksOf(scope: FirmScope, since: Date): Promise<LooksDto> {
  const rows = await scope.query<{ day: string; person: string; count: number; names: string[] }>(
    `select l.day, p.name as person, count(*)::int as count, (array_agg(s.name order by s.name))[1:$3] as names
     from customer_look l join person p on p.firm_id = l.firm_id and p.id = l.person_id
       left join site s on s.firm_id = l.firm_id and s.id = l.opened_id
     where l.firm_id = $1 and l.day >= $2 group by l.day, p.name order by l.day desc, p.name limit 400`,
    [new Date(since.getTime() - DAYS_SHOWN * 86_400_000).toISOString().slice(0, 10), NAMES_SHOWN],
  )
  return { looks: rows.map(({ names, ...row }) => ({ ...row, names: names.filter((name) => name !== null) })) }
}
