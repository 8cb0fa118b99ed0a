import type { PersonDto, personEditSchema, personNewSchema } from '@evenround/contract/firm'
import { say, sayFor } from '@evenround/core/words'
import type { z } from 'zod'
import { hashPassword } from '../../auth/hashing'
import { Person } from '../../db/entities/master'
import { breach } from '../../db/errors'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import { editVersioned } from '../../http/versions'
import { personDto } from './store'

/** A new person who may sign in once they have a password. */
export async function addInvited(
  scope: FirmScope,
  fields: Omit<z.output<typeof personNewSchema>, 'password'>,
  now: Date,
): Promise<PersonDto> {
  try {
    await scope.insert(Person, { ...fields, active: true, version: 1 })
    await scope.query(
      `insert into auth_user (firm_id, id, name, email, email_verified, created_at, updated_at) values ($1, $2, $3, $4, true, $5, $5)`,
      [fields.id, fields.name, fields.email, now],
    )
  } catch (error) {
    if (breach(error) !== 'unique') throw error
    throw new ApiError('CONFLICT', say`Somebody signs in with this e-mail already.`, {
      fields: [{ path: 'email', message: say`already in use` }],
    })
  }
  return { ...fields, active: true, version: 1 }
}

/** A new person with a sign-in of the same id, in one transaction. */
export async function addPerson(
  scope: FirmScope,
  input: z.output<typeof personNewSchema>,
  now: Date,
  newId: () => string,
): Promise<PersonDto> {
  const { password, ...fields } = input
  const hashed = await hashPassword(password)
  const person = await addInvited(scope, fields, now)
  await scope.query(
    `insert into auth_account (firm_id, id, user_id, account_id, provider_id, password, created_at, updated_at)
     values ($1, $2, $3, $3::uuid::text, 'credential', $4, $5, $5)`,
    [newId(), fields.id, hashed, now],
  )
  return person
}

/** Edits a person; switching one off ends the sign-ins at once. The last active owner stays one. */
export async function editPerson(scope: FirmScope, id: string, input: z.output<typeof personEditSchema>): Promise<PersonDto> {
  const { version, ...patch } = input
  const person = await scope.findOne(Person, { id })
  if (!person) throw notFound('person')
  if (person.role === 'owner' && (patch.role !== 'owner' || !patch.active)) {
    const owners = await scope.find(Person, { role: 'owner', active: true })
    if (owners.every((owner) => owner.id === id))
      throw new ApiError('CONFLICT', say`This is the firm’s only owner; name another one first.`)
  }
  const after = await editVersioned(scope, Person, { id, version, patch, what: 'person' }, personDto)
  if (!patch.active) await endSignIns(scope, id)
  return after
}

export async function endSignIns(scope: FirmScope, personId: string, exceptSession?: string): Promise<void> {
  await scope.query('delete from auth_session where firm_id = $1 and user_id = $2 and id is distinct from $3::uuid', [
    personId,
    exceptSession ?? null,
  ])
}

/** A new password by an owner; every device of that person has to sign in again. */
export async function resetPassword(scope: FirmScope, personId: string, password: string, now: Date): Promise<void> {
  if (!(await scope.findOne(Person, { id: personId }))) throw notFound('person')
  const hashed = await hashPassword(password)
  await scope.query(
    `update auth_account set password = $3, updated_at = $4 where firm_id = $1 and user_id = $2 and provider_id = 'credential'`,
    [personId, hashed, now],
  )
  await endSignIns(scope, personId)
}

export interface SignIn {
  id: string
  device: string
  since: string
  lastSeen: string
}

/** "Chromium on Linux" out of a user agent, good enough to tell a lost phone from a desk. */
export function deviceName(userAgent: string | null): string {
  const agent = userAgent ?? ''
  const browser = /Firefox/.test(agent)
    ? 'Firefox'
    : /Edg\//.test(agent)
      ? 'Edge'
      : /Chrom/.test(agent)
        ? 'Chromium'
        : /Safari/.test(agent)
          ? 'Safari'
          : say`A program`
  const system = /Android/.test(agent)
    ? 'Android'
    : /iPhone|iPad/.test(agent)
      ? 'iOS'
      : /Windows/.test(agent)
        ? 'Windows'
        : /Mac OS/.test(agent)
          ? 'macOS'
          : /Linux/.test(agent)
            ? 'Linux'
            : say`an unknown system`
  return sayFor('device')`${browser} on ${system}`
}

export async function signInsOf(scope: FirmScope, personId: string, now: Date): Promise<SignIn[]> {
  if (!(await scope.findOne(Person, { id: personId }))) throw notFound('person')
  const rows = await scope.query<{ id: string; user_agent: string | null; created_at: Date; updated_at: Date }>(
    'select id, user_agent, created_at, updated_at from auth_session where firm_id = $1 and user_id = $2 and expires_at > $3 order by updated_at desc',
    [personId, now],
  )
  return rows.map((row) => ({
    id: row.id,
    device: deviceName(row.user_agent),
    since: row.created_at.toISOString(),
    lastSeen: row.updated_at.toISOString(),
  }))
}

export async function endSignIn(scope: FirmScope, personId: string, sessionId: string): Promise<void> {
  const gone = await scope.query(
    'with gone as (delete from auth_session where firm_id = $1 and user_id = $2 and id = $3 returning 1) select * from gone',
    [personId, sessionId],
  )
  if (gone.length === 0) throw notFound('sign-in')
}
