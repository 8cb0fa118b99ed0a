import type { Setup } from '@evenround/contract/begin'
import { USUAL_SCHOOLS } from '@evenround/contract/firm'
import { Firm } from '../../db/entities/master'
import { Place, WorkTimeRow } from '../../db/entities/round'
import type { FirmScope } from '../../db/scope'
import { addInvited, addPerson } from '../firm/people'
import { USUAL_TIMES } from '../times/team'

/** An owner without a password signs in by an invitation. */
type NewFirm = Omit<Setup, 'code' | 'owner'> & { owner: Omit<Setup['owner'], 'password'> & { password: string | null } }

/** Writes a new firm with its first owner, and where and when their work begins; resolves with the owner's id. */
export async function writeFirm(
  scope: FirmScope,
  { firm, owner, base, week }: NewFirm,
  { now, newId }: { now: Date; newId: () => string },
): Promise<string> {
  await scope.insert(Firm, { ...firm, schools: USUAL_SCHOOLS, version: 1 })
  const ownerId = newId()
  const { password, ...fields } = { ...owner, id: ownerId, role: 'owner' as const, skills: [], van: null }
  if (password === null) await addInvited(scope, fields, now)
  else await addPerson(scope, { ...fields, password }, now, newId)
  const baseId = base === null ? null : newId()
  if (base !== null && baseId !== null) await scope.insert(Place, { id: baseId, ...base, island: '' })
  const weekdays = [...new Set(week.weekdays)].sort((a, b) => a - b)
  await scope.insert(WorkTimeRow, {
    id: ownerId,
    base: baseId,
    weekdays,
    fromMin: week.fromMin,
    toMin: week.toMin,
    overtimeMin: USUAL_TIMES.overtimeMin,
    vanKg: null,
    version: 1,
  })
  return ownerId
}
