import { createApp } from '../app'
import { Aside } from '../background/aside'
import { asker, openWorld, type World } from '../testing/world'

let world: World
let thread: Aside
const handed: string[] = []
const open = (url: string, more: { mostMs?: number } = {}): Aside =>
  new Aside({ what: 'apart', always: false, url, asAppRole: false, planSeconds: null, roadHosts: [], log: () => undefined, ...more })
const appWith = (aside: Aside): World['app'] =>
  createApp(world.deps, {
    ready: async () => true,
    signInHints: [],
    apart: (ask) => {
      handed.push(`${ask.method} ${ask.path}`)
      return aside.ask('answer', ask)
    },
  })
beforeAll(async () => {
  world = await openWorld('demo')
  thread = open(world.database.appUrl)
})
afterAll(async () => {
  await thread.close()
  await world.close()
})
afterEach(() => {
  handed.length = 0
})

/** What is asked of a server of its own threads and of one that does all by itself. */
async function both(method: string, path: string, input?: unknown) {
  const { cookie, ask } = await world.signIn('isla@fennick.example')
  return { here: await ask(method, path, input), apart: await asker(appWith(thread), cookie)(method, path, input) }
}
const SAID = ['content-type', 'content-disposition', 'cache-control']
const said = (headers: Headers) => SAID.map((name) => headers.get(name))

test('what another thread answers is what this one would have answered, its headers with it', async () => {
  const opened = await both('POST', '/api/round/open')
  expect(opened.apart.status).toBe(200)
  expect(opened.apart.body).toEqual(opened.here.body)
  const { setId } = opened.here.body
  const paths = [
    `/api/round/sets/${setId}`,
    '/api/round',
    '/api/round/week',
    '/api/round/changes',
    '/api/round.ics',
    '/api/year',
    '/api/sites',
    '/api/due-rules/hindsight',
    '/api/due.csv?island=Thrawn',
    '/api/book.csv',
  ]
  for (const path of paths) {
    const { here, apart } = await both('GET', path)
    expect([path, apart.status]).toEqual([path, 200])
    // A calendar says when it was made.
    const text = (one: { text: string }) => one.text.replace(/^DTSTAMP:.*$/gm, '')
    expect(text(apart)).toBe(text(here))
    expect(said(apart.headers)).toEqual(said(here.headers))
  }
  expect(handed).toEqual(['POST /api/round/open', ...paths.map((path) => `GET ${path}`)])
})

test('a refusal comes with its places, its code and in the language of whoever asks', async () => {
  const { cookie } = await world.signIn('isla@fennick.example')
  const app = appWith(thread)
  const { here, apart } = await both('POST', '/api/round/moves', { visitId: 'no id' })
  expect([here.status, apart.status]).toEqual([400, 400])
  expect(apart.body.error.fields.length).toBeGreaterThan(1)
  expect(apart.body).toEqual(here.body)
  const german = await app.request('/api/round/sets/01900000-0000-7000-8000-000000000001', {
    headers: { cookie, 'accept-language': 'de' },
  })
  expect(german.status).toBe(404)
  expect((await german.json()).error.message).toBe('Das gibt es hier nicht: Plan in Arbeit.')
  const stale = await both('POST', '/api/round/publications', { version: 0 })
  expect(stale.apart.body.error.code).toBe('STALE_VERSION')
  expect(stale.apart.body).toEqual(stale.here.body)
})

test('whoever may not ask is not handed on, and what reads little is answered here', async () => {
  const { cookie } = await world.signIn('tam@fennick.example')
  const ask = asker(appWith(thread), cookie)
  expect((await ask('POST', '/api/round/fresh')).status).toBe(403)
  expect((await ask('GET', '/api/today')).status).toBe(200)
  expect(handed).toEqual([])
  expect((await appWith(thread).request('/api/round')).status).toBe(401)
  expect(handed).toEqual([])
})

test('where the thread finds no database, or ends, whoever asks is told what it was', async () => {
  const { cookie } = await world.signIn('isla@fennick.example')
  const nowhere = open('postgres://nobody@127.0.0.1:1/none')
  const away = await asker(appWith(nowhere), cookie)('GET', '/api/round')
  expect([away.status, away.body.error.code]).toEqual([503, 'DATABASE_AWAY'])
  await nowhere.close()
  // A thread that is just being begun is not ready within this.
  const slow = open(world.database.appUrl, { mostMs: 5 })
  expect((await asker(appWith(slow), cookie)('GET', '/api/round')).body.error.code).toBe('TIMED_OUT')
  await slow.close()
})
