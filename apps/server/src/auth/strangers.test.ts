import { LIMITS } from '../http/limits'
import { peek } from '../testing/database'
import { addFirm, asker, openWorld, PASSWORD, type World } from '../testing/world'
import { purgeTries } from './failures'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'skerry')
})
afterAll(() => world.close())

const signIn = async (email: string, password: string, { cookie = '', from = 'here' } = {}) =>
  world.app.request('/api/auth/sign-in', {
    method: 'POST',
    headers: { 'content-type': 'application/json', cookie, 'x-forwarded-for': from },
    body: JSON.stringify({ email, password }),
  })
const cookieOf = (answer: Response): string =>
  answer.headers
    .getSetCookie()
    .map((one) => one.split(';')[0])
    .join('; ')
const later = (seconds: number): void => {
  world.clock.now = new Date(world.clock.now.getTime() + seconds * 1000)
}

test('of a burst of guesses five are looked at', async () => {
  const answers = await Promise.all(
    Array.from({ length: 60 }, (_, index) => signIn(firm.email('viewer'), `guess ${index}`, { from: `far ${index}` })),
  )
  const count = (status: number): number => answers.filter((one) => one.status === status).length
  expect(count(401)).toBeLessThanOrEqual(5)
  expect(count(401) + count(429) + count(503)).toBe(60)
})

test('a stranger who guesses keeps nobody out of a device they were in on before; another device waits', async () => {
  const email = firm.email('technician')
  const known = cookieOf(await signIn(email, PASSWORD))
  expect(known).toContain('even-round.known=')
  for (let tries = 0; tries < 5; tries++) await signIn(email, 'wrong wrong', { from: 'far' })
  expect((await signIn(email, PASSWORD, { from: 'new' })).status).toBe(429)
  expect((await signIn(email, PASSWORD, { cookie: known })).status).toBe(200)
  // The cookie of one person opens no waiting of another, and one made up opens nothing.
  const other = firm.email('owner')
  for (let tries = 0; tries < 5; tries++) await signIn(other, 'wrong wrong', { from: 'far' })
  expect((await signIn(other, PASSWORD, { cookie: known })).status).toBe(429)
  expect((await signIn(other, PASSWORD, { cookie: 'even-round.known=AAAAAAAAAAAAAAAAAAAAAAAA.AAAA' })).status).toBe(429)
  later(6)
  expect((await signIn(other, PASSWORD)).status).toBe(200)
})

test('a known device has its own wait', async () => {
  const email = firm.email('technician')
  later(1000)
  const known = cookieOf(await signIn(email, PASSWORD))
  for (let tries = 0; tries < 5; tries++) expect((await signIn(email, 'wrong wrong', { cookie: known })).status).toBe(401)
  expect((await signIn(email, PASSWORD, { cookie: known })).status).toBe(429)
  expect((await signIn(email, PASSWORD)).status).toBe(200)
})

test('one address is slowed whatever e-mails it tries', async () => {
  const answers: number[] = []
  for (let tries = 0; tries <= LIMITS['sign-in'].times; tries++)
    answers.push((await world.app.request('/api/auth/passkey/ask', { method: 'POST', headers: { 'x-forwarded-for': 'one' } })).status)
  expect(answers.slice(0, LIMITS['sign-in'].times).every((status) => status === 200)).toBe(true)
  expect(answers.at(-1)).toBe(429)
  expect((await signIn('nobody@nowhere.example', 'guess', { from: 'two' })).status).toBe(401)
})

test('strangers who hold every connection of theirs keep nobody from their work', async () => {
  const owner = await world.signIn(firm.email('owner'))
  const held = [world.doorSource.createQueryRunner(), world.doorSource.createQueryRunner()]
  for (const runner of held) await runner.connect()
  const through: string[] = []
  const waiting = Array.from({ length: 20 }, (_, index) =>
    signIn(`stranger${index}@nowhere.example`, 'guess', { from: `s${index}` }).then(() => through.push('stranger')),
  )
  try {
    // All of theirs are taken: an answer came over another.
    expect((await owner.ask('GET', '/api/me')).status).toBe(200)
    expect(through).toEqual([])
  } finally {
    for (const runner of held) await runner.release()
  }
  await Promise.all(waiting)
  expect(through).toHaveLength(20)
})

test('tries nobody waits for any more are thrown away', async () => {
  const count = async (): Promise<number> => (await peek(world.database, 'select 1 from sign_in_failure')).length
  expect(await count()).toBeGreaterThan(0)
  await purgeTries(world.deps.inAuthScope, new Date(world.clock.now.getTime() + 2 * 86_400_000))
  expect(await count()).toBe(0)
})

test('a link by mail or from an owner opens the door that guesses have shut', async () => {
  const email = firm.email('viewer')
  for (let tries = 0; tries < 6; tries++) await signIn(email, 'wrong wrong', { from: 'far' })
  expect((await signIn(email, PASSWORD, { from: 'new' })).status).toBe(429)
  const owner = await world.signIn(firm.email('owner'))
  const { body } = await owner.ask('POST', `/api/people/${firm.viewerId}/links`, { kind: 'reset' })
  const taken = await asker(world.app, '')('POST', '/api/auth/links/use', { token: body.token, password: 'a new way back in' })
  expect(taken.status).toBe(200)
  expect((await signIn(email, 'a new way back in', { from: 'new' })).status).toBe(200)
})
