import type { SecondDto } from '@evenround/contract/second'
import { say } from '@evenround/core/words'
import { Firm, Person } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import { type AuditDeed, record } from '../records/audit'
import { endSignIns } from './people'

/** What a person has beside the password; how many codes are left only the library can tell. */
export async function secondOf(scope: FirmScope, personId: string): Promise<Omit<SecondDto, 'codesLeft'>> {
  const [user] = await scope.query<{ on: boolean }>('select two_factor_enabled as on from auth_user where firm_id = $1 and id = $2', [
    personId,
  ])
  const passkeys = await scope.query<{ id: string; name: string | null; created_at: Date }>(
    'select id, name, created_at from auth_passkey where firm_id = $1 and user_id = $2 order by created_at',
    [personId],
  )
  const [firm, person] = [await scope.findOne(Firm, {}), await scope.findOne(Person, { id: personId })]
  return {
    app: user?.on ?? false,
    passkeys: passkeys.map(({ id, name, created_at }) => ({ id, name: name ?? say`Passkey`, since: created_at.toISOString() })),
    asked: firm?.secondFactor === 'owners' && person?.role === 'owner',
  }
}

/** Takes one away; the last one stays where the firm asks for one. */
export async function removePasskey(scope: FirmScope, personId: string, id: string): Promise<void> {
  const has = await secondOf(scope, personId)
  if (has.asked && !has.app && has.passkeys.length === 1)
    throw new ApiError('CONFLICT', say`Your firm asks its owners for a second factor: add another one first.`)
  const gone = await scope.query<{ id: string }>(
    'with gone as (delete from auth_passkey where firm_id = $1 and user_id = $2 and id = $3 returning id) select id from gone',
    [personId, id],
  )
  if (gone.length === 0) throw notFound('passkey')
}

/** Everything but the password goes, for who lost their phone and their codes; every device signs in again, and the audit record says so. */
export async function removeSecond(scope: FirmScope, personId: string, deed: Pick<AuditDeed, 'id' | 'at' | 'personId'>): Promise<void> {
  const person = await scope.findOne(Person, { id: personId })
  if (!person) throw notFound('person')
  await scope.query('delete from auth_two_factor where firm_id = $1 and user_id = $2', [personId])
  await scope.query('delete from auth_passkey where firm_id = $1 and user_id = $2', [personId])
  await scope.query('update auth_user set two_factor_enabled = false where firm_id = $1 and id = $2', [personId])
  await endSignIns(scope, personId)
  await record(scope, {
    ...deed,
    what: 'second-factor-removed',
    about: null,
    said: say`${person.name} signs in with the password alone until they set up another one.`,
  })
}
