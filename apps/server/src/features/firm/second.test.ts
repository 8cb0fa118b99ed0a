import { createHmac } from 'node:crypto'
import type { SecondBegun, SecondDto } from '@evenround/contract/second'
import { peek } from '../../testing/database'
import { addFirm, asker, openWorld, PASSWORD, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'weir')
})
afterAll(() => world.close())

const STEP_S = 30
/** A code as an authenticator app makes it (RFC 6238: HMAC-SHA-1, six digits, thirty seconds), from the address in the picture. */
function codeOf(address: string, ago = 0): string {
  const secret = new URL(address).searchParams.get('secret') ?? ''
  const bits = [...secret.replaceAll('=', '')].map((letter) =>
    'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567'.indexOf(letter).toString(2).padStart(5, '0'),
  )
  const key = Buffer.from((bits.join('').match(/.{8}/g) ?? []).map((byte) => Number.parseInt(byte, 2)))
  const counter = Buffer.alloc(8)
  counter.writeBigUInt64BE(BigInt(Math.floor(Date.now() / 1000 / STEP_S) - ago))
  const mac = createHmac('sha1', key).update(counter).digest()
  const at = (mac.at(-1) ?? 0) & 15
  return String((mac.readUInt32BE(at) & 0x7fffffff) % 1_000_000).padStart(6, '0')
}
/** Cookies as a browser keeps them: a later one of a name replaces the earlier, an ended one goes. */
function kept(...answers: { headers: Headers }[]): string {
  const jar = new Map<string, string>()
  for (const cookie of answers.flatMap(({ headers }) => headers.getSetCookie())) {
    const [pair = ''] = cookie.split(';')
    const [name = '', value = ''] = [pair.slice(0, pair.indexOf('=')), pair.slice(pair.indexOf('=') + 1)]
    if (/max-age=0/i.test(cookie)) jar.delete(name)
    else jar.set(name, value)
  }
  return [...jar].map(([name, value]) => `${name}=${value}`).join('; ')
}
const post = (path: string, input: unknown, cookie = '') => asker(world.app, cookie)('POST', path, input)
const signIn = (email: string) => post('/api/auth/sign-in', { email, password: PASSWORD })
/** Signed in, with an authenticator app set up and confirmed. */
async function withApp(email: string): Promise<{ person: Person; begun: SecondBegun }> {
  const first = await world.signIn(email)
  const begun = (await first.ask('POST', '/api/me/second', { password: PASSWORD })).body as SecondBegun
  const answer = await first.ask('POST', '/api/me/second/confirm', { code: codeOf(begun.address) })
  expect(answer.status).toBe(200)
  const cookie = kept(answer)
  return { person: { cookie, ask: asker(world.app, cookie) }, begun }
}
const own = async (person: Person): Promise<SecondDto> => (await person.ask('GET', '/api/me/second')).body

test('an authenticator app: in force once a code was confirmed; then a password alone opens nothing', async () => {
  const email = firm.email('technician')
  const first = await world.signIn(email)
  expect(await own(first)).toEqual({ app: false, codesLeft: null, passkeys: [], asked: false })
  expect((await first.ask('POST', '/api/me/second', { password: 'not the one' })).body.error.fields).toEqual([
    { path: 'password', message: 'not the current password' },
  ])
  const begun = (await first.ask('POST', '/api/me/second', { password: PASSWORD })).body as SecondBegun
  expect(begun.address).toMatch(/^otpauth:\/\/totp\/.*issuer=Even(%20|\+)Round/)
  expect(begun.codes).toHaveLength(10)
  // Asked for, not confirmed: signing in is as before.
  expect((await signIn(email)).body).toEqual({ ok: true, second: false })
  const wrong = await first.ask('POST', '/api/me/second/confirm', { code: '000000' })
  expect([wrong.status, wrong.body.error.fields[0].path]).toEqual([400, 'code'])
  expect((await first.ask('POST', '/api/me/second/confirm', { code: codeOf(begun.address) })).status).toBe(200)

  const asked = await signIn(email)
  expect(asked.body).toEqual({ ok: true, second: true })
  const challenge = kept(asked)
  expect((await asker(world.app, challenge)('GET', '/api/me')).status).toBe(401)
  expect((await post('/api/auth/second', { code: codeOf(begun.address), kind: 'app' })).status).toBe(401)
  expect((await post('/api/auth/second', { code: '111111', kind: 'app' }, challenge)).body.error.fields[0].path).toBe('code')
  expect((await post('/api/auth/second', { code: codeOf(begun.address, 100), kind: 'app' }, challenge)).status).toBe(400)
  const right = codeOf(begun.address)
  const entered = await post('/api/auth/second', { code: `${right.slice(0, 3)} ${right.slice(3)}`, kind: 'app' }, challenge)
  expect(entered.body).toEqual({ ok: true, second: false })
  const inside = asker(world.app, kept(asked, entered))
  expect((await inside('GET', '/api/me')).body.person.email).toBe(email)
  // The challenge is used up.
  expect((await post('/api/auth/second', { code: codeOf(begun.address), kind: 'app' }, challenge)).status).toBe(401)

  const [code] = begun.codes
  const again = await signIn(email)
  expect((await post('/api/auth/second', { code, kind: 'recovery' }, kept(again))).status).toBe(200)
  const third = await signIn(email)
  expect((await post('/api/auth/second', { code, kind: 'recovery' }, kept(third))).body.error.fields[0].path).toBe('code')
  expect(await own({ cookie: '', ask: inside })).toMatchObject({ app: true, codesLeft: 9 })
  const fresh = (await inside('POST', '/api/me/second/codes', { password: PASSWORD })).body.codes as string[]
  expect([fresh.length, fresh.includes(begun.codes[1] ?? '')]).toEqual([10, false])
  expect((await inside('POST', '/api/me/second/off', { password: 'not the one' })).status).toBe(400)
  expect((await inside('POST', '/api/me/second/off', { password: PASSWORD })).status).toBe(200)
  expect((await signIn(email)).body).toEqual({ ok: true, second: false })
  // Neither secret nor code stands readable in the database.
  const rows = await peek<{ row: string }>(world.database, 'select t::text as row from auth_two_factor t')
  expect(rows).toEqual([])
})

test('secrets and codes are kept encrypted, and codes cannot be tried for ever', async () => {
  const email = firm.email('viewer')
  const { person, begun } = await withApp(email)
  const [row] = await peek<{ secret: string; backup_codes: string; firm_id: string }>(world.database, 'select * from auth_two_factor')
  expect(row?.firm_id).toBe(firm.firmId)
  for (const code of begun.codes) expect(row?.backup_codes).not.toContain(code)
  expect(row?.secret).not.toContain(new URL(begun.address).searchParams.get('secret'))
  const asked = await signIn(email)
  const challenge = kept(asked)
  for (let tries = 0; tries < 5; tries++)
    expect((await post('/api/auth/second', { code: '000000', kind: 'app' }, challenge)).status).toBe(400)
  const ended = await post('/api/auth/second', { code: codeOf(begun.address), kind: 'app' }, challenge)
  expect([ended.status, ended.body.error.message]).toEqual([401, expect.stringContaining('Sign in again')])
  // Other challenges, the same person: after ten in all nobody gets on for a while.
  const second = kept(await signIn(email))
  for (let tries = 0; tries < 5; tries++) await post('/api/auth/second', { code: '000000', kind: 'app' }, second)
  const third = kept(await signIn(email))
  expect((await post('/api/auth/second', { code: codeOf(begun.address), kind: 'app' }, third)).status).toBe(429)
  expect((await person.ask('GET', '/api/me')).status).toBe(200)
})

test('a firm asks its owners for one: until it is set up the owner’s own acts wait; an owner takes a lost one away, and that is recorded', async () => {
  const email = firm.email('owner')
  const owner = await world.signIn(email)
  const { firm: as } = (await owner.ask('GET', '/api/me')).body
  const rule = { version: as.version, name: as.name, gallon: as.gallon, schools: as.schools, secondFactor: 'owners' }
  expect((await owner.ask('PUT', '/api/firm', rule)).body.error.code).toBe('CONFLICT')
  const { person, begun } = await withApp(email)
  expect((await person.ask('PUT', '/api/firm', rule)).body.secondFactor).toBe('owners')
  const partner = {
    id: crypto.randomUUID(),
    name: 'Partner',
    email: 'partner@weir.example',
    role: 'owner',
    skills: [],
    van: null,
    password: PASSWORD,
  }
  expect((await person.ask('POST', '/api/people', partner)).status).toBe(200)
  const other = await world.signIn(partner.email)
  expect((await other.ask('GET', '/api/me')).body.secondMissing).toBe(true)
  expect((await other.ask('GET', '/api/sites')).status).toBe(200)
  for (const [method, path] of [
    ['GET', '/api/people'],
    ['GET', '/api/audit'],
    ['POST', '/api/firm-file'],
  ] as const)
    expect([path, (await other.ask(method, path)).status]).toEqual([path, 403])
  const { person: set } = await withApp(partner.email)
  expect((await set.ask('GET', '/api/me')).body.secondMissing).toBe(false)
  expect((await set.ask('GET', '/api/people')).status).toBe(200)
  expect((await set.ask('POST', '/api/me/second/off', { password: PASSWORD })).body.error.code).toBe('CONFLICT')

  // The phone is lost, and the codes with it.
  const technician = await world.signIn(firm.email('technician'))
  expect((await technician.ask('DELETE', `/api/people/${firm.ownerId}/second`)).status).toBe(403)
  expect((await set.ask('DELETE', `/api/people/${firm.ownerId}/second`)).status).toBe(200)
  expect((await person.ask('GET', '/api/me')).status).toBe(401)
  expect((await signIn(email)).body).toEqual({ ok: true, second: false })
  expect((await set.ask('GET', '/api/audit')).body.deeds[0]).toMatchObject({ what: 'second-factor-removed', person: 'Partner' })
  expect(begun.codes).toHaveLength(10)
})

test('a link for a new password does not go round the second factor', async () => {
  const brook = await addFirm(world, 'brook')
  const owner = await world.signIn(brook.email('owner'))
  const { begun } = await withApp(brook.email('technician'))
  const link = (await owner.ask('POST', `/api/people/${brook.technicianId}/links`, { kind: 'reset' })).body
  const used = await post('/api/auth/links/use', { token: link.token, password: 'chosen by whoever has the link' })
  expect(used.body).toEqual({ ok: true, second: true })
  expect((await asker(world.app, kept(used))('GET', '/api/me')).status).toBe(401)
  const entered = await post('/api/auth/second', { code: codeOf(begun.address), kind: 'app' }, kept(used))
  expect((await asker(world.app, kept(used, entered))('GET', '/api/me')).status).toBe(200)
})
