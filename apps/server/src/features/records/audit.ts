import type { AuditDto, Audited } from '@evenround/contract/export'
import type { FirmScope } from '../../db/scope'
import type { Deps, Who } from '../../http/env'

export interface AuditDeed {
  id: string
  at: Date
  /** Null from the server's shell. */
  personId: string | null
  what: Audited
  /** The site it was about, where it was about one. */
  about: string | null
  said: string
}

/** Writes down who did it; nobody can change or delete such a line. */
export async function record(scope: FirmScope, { id, at, personId, what, about, said }: AuditDeed): Promise<void> {
  await scope.query('insert into audit (firm_id, id, at, person_id, what, about, said) values ($1, $2, $3, $4, $5, $6, $7)', [
    id,
    at,
    personId,
    what,
    about,
    said,
  ])
}

/** The same, done by whoever asks, now. */
export const noteDeed = (
  scope: FirmScope,
  { newId, now }: Pick<Deps, 'newId' | 'now'>,
  { personId }: Pick<Who, 'personId'>,
  what: Audited,
  said: string,
  about: string | null = null,
): Promise<void> => record(scope, { id: newId(), at: now(), personId, what, about, said })

const MOST_SHOWN = 200

/** What was exported and erased, the latest first. */
export async function recorded(scope: FirmScope): Promise<AuditDto[]> {
  const rows = await scope.query<{ id: string; at: Date; what: Audited; person: string | null; said: string }>(
    `select a.id, a.at, a.what, p.name as person, a.said from audit a left join person p on p.firm_id = a.firm_id and p.id = a.person_id
     where a.firm_id = $1 order by a.at desc, a.id desc limit $2`,
    [MOST_SHOWN],
  )
  return rows.map(({ at, ...row }) => ({ ...row, at: at.toISOString() }))
}
