import { randomBytes } from 'node:crypto'
import type { LinkDto, LinkFor, LinkKind } from '@evenround/contract/begin'
import { say } from '@evenround/core/words'
import { hashPassword } from '../../auth/hashing'
import { hashOfToken } from '../../auth/token'
import { Firm, Person } from '../../db/entities/master'
import type { FirmScope, InAuthScope, InFirm } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import type { Mailer } from '../../mail/mailer'
import { endSignIns } from './people'

const DAY_MS = 86_400_000
/** Somebody on holiday opens an invitation late; a forgotten password is wanted now. */
const GOOD_FOR_MS: Record<LinkKind, number> = { invitation: 14 * DAY_MS, reset: DAY_MS / 24 }

interface Making {
  kind: LinkKind
  personId: string
  /** Null where the person asked for it without being signed in. */
  madeBy: string | null
  now: Date
  newId: () => string
}

/** A new link for a person; those made before are good no more. */
export async function makeLink(scope: FirmScope, { kind, personId, madeBy, now, newId }: Making): Promise<LinkDto> {
  const person = await scope.findOne(Person, { id: personId })
  if (!person) throw notFound('person')
  if (!person.active) throw new ApiError('CONFLICT', say`This person is switched off: switch them on first.`)
  const token = randomBytes(32).toString('base64url')
  const expiresAt = new Date(now.getTime() + GOOD_FOR_MS[kind])
  await scope.query('update person_link set used_at = $3 where firm_id = $1 and person_id = $2 and used_at is null', [personId, now])
  await scope.query(
    `insert into person_link (firm_id, id, kind, person_id, token_hash, made_by, made_at, expires_at) values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [newId(), kind, personId, hashOfToken(token), madeBy, now, expiresAt],
  )
  return { kind, personId, token, expiresAt: expiresAt.toISOString(), mailedTo: null }
}

const LETTERS: Record<LinkKind, (firm: string) => { subject: string; text: string }> = {
  invitation: (firm) => ({
    subject: say`${firm} invites you to Even Round`,
    text: say`${firm} works with Even Round and has made a sign-in for you. Open this link and choose a password. It is good once, for two weeks.`,
  }),
  reset: (firm) => ({
    subject: say`A new password for Even Round at ${firm}`,
    text: say`Open this link and choose a new password. It is good once, for an hour. If you did not ask for it, leave it: nothing changes.`,
  }),
}

/** Sends a link to its person, where mail is set up and the server knows its own address; says to whom. */
export async function mailLink(
  scope: FirmScope,
  link: LinkDto,
  { mailer, publicUrl }: { mailer: Mailer | null; publicUrl: string | null },
): Promise<LinkDto> {
  if (mailer === null || publicUrl === null) return link
  const person = await scope.findOne(Person, { id: link.personId })
  const firm = await scope.findOne(Firm, {})
  if (!person || !firm) return link
  const { subject, text } = LETTERS[link.kind](firm.name)
  await mailer.send({ firmId: scope.firmId, to: person.email, subject, text: `${text}\n\n${publicUrl}/welcome?link=${link.token}\n` })
  return { ...link, mailedTo: person.email }
}

interface Found {
  id: string
  firmId: string
  personId: string
  kind: LinkKind
}
const GONE = () => say`This link is no longer good: it was used, replaced or has run out. Ask an owner of your firm for a new one.`

/** From a token to its link, while it is good. */
async function linkOf(inAuthScope: InAuthScope, token: string, now: Date): Promise<Found> {
  const [row] = await inAuthScope<Found[]>((manager) =>
    manager.query(
      `select id, firm_id as "firmId", person_id as "personId", kind from person_link
       where token_hash = $1 and used_at is null and expires_at > $2`,
      [hashOfToken(token), now],
    ),
  )
  if (!row) throw new ApiError('NOT_FOUND', GONE())
  return row
}

interface Scopes {
  inAuthScope: InAuthScope
  inFirm: InFirm
}

/** Whom a link is for; refuses one that is not good. */
export async function linkFor({ inAuthScope, inFirm }: Scopes, token: string, now: Date): Promise<LinkFor> {
  const { firmId, personId, kind } = await linkOf(inAuthScope, token, now)
  return inFirm(firmId, async (scope) => {
    const person = await scope.findOne(Person, { id: personId, active: true })
    const firm = await scope.findOne(Firm, {})
    if (!person || !firm) throw new ApiError('NOT_FOUND', GONE())
    return { kind, name: person.name, email: person.email, firm: firm.name }
  })
}

/** Uses a link up: its person has this password from now on, and every device signs in again. Resolves with the e-mail. */
export async function useLink(
  { inAuthScope, inFirm }: Scopes,
  token: string,
  password: string,
  now: Date,
  newId: () => string,
): Promise<string> {
  const { firmId, personId, id } = await linkOf(inAuthScope, token, now)
  const hashed = await hashPassword(password)
  return inFirm(firmId, async (scope) => {
    const person = await scope.findOne(Person, { id: personId, active: true })
    // Of two that open it at once one is first.
    const used = await scope.query(
      'with used as (update person_link set used_at = $3 where firm_id = $1 and id = $2 and used_at is null returning 1) select * from used',
      [id, now],
    )
    if (!person || used.length === 0) throw new ApiError('NOT_FOUND', GONE())
    await scope.query(
      `with old as (delete from auth_account where firm_id = $1 and user_id = $2 and provider_id = 'credential')
       insert into auth_account (firm_id, id, user_id, account_id, provider_id, password, created_at, updated_at)
       values ($1, $3, $2, $2::uuid::text, 'credential', $4, $5, $5)`,
      [personId, newId(), hashed, now],
    )
    await endSignIns(scope, personId)
    return person.email
  })
}

/** Whose e-mail this is; null where nobody signs in with it. */
export async function whoseEmail(inAuthScope: InAuthScope, email: string): Promise<{ firmId: string; personId: string } | null> {
  const [row] = await inAuthScope<{ firmId: string; personId: string }[]>((manager) =>
    manager.query('select firm_id as "firmId", id as "personId" from auth_user where email = $1', [email]),
  )
  return row ?? null
}
