import type { BroughtInDto } from '@evenround/contract/export'
import { say } from '@evenround/core/words'
import type { FirmScope } from '../../db/scope'
import type { BroughtIn } from '../../firm-file/read'
import { makeLink } from '../firm/links'
import { record } from '../records/audit'

interface Opening {
  now: Date
  newId: () => string
  /** By what it was brought in, where that was not the browser. */
  by?: string
}

/** A link for each owner of a firm that was brought in, since passwords stay behind; and that it was brought in, on record. */
export async function openToOwners(
  scope: FirmScope,
  { rows, pictures, owners }: BroughtIn,
  { now, newId, by }: Opening,
): Promise<BroughtInDto['owners']> {
  const links: BroughtInDto['owners'] = []
  for (const { personId, name, email } of owners) {
    const { token } = await makeLink(scope, { kind: 'invitation', personId, madeBy: null, now, newId })
    links.push({ name, email, token })
  }
  const said = say`${rows} rows and ${pictures} pictures were imported${by === undefined ? '' : say` by ${by}`}.`
  await record(scope, { id: newId(), at: now, personId: null, what: 'firm-brought-in', about: null, said })
  return links
}
