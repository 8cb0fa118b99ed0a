import { type Answer, type Asked, serverThat, until } from '../testing/device'
import { reading } from '../testing/facts'
import { keepEdit, openEdits, retryEdits, sendEdits, useKeptEdits } from './kept-edits'
import { openOutbox, record, useOutbox } from './outbox'

const EFFECTS = { visits: [], followUps: [], holds: [], systems: [] }
const good = ({ path, body }: Asked): Answer =>
  path === '/api/facts'
    ? {
        status: 200,
        body: {
          results: (body as { facts: { id: string }[] }).facts.map(({ id }) => ({ id, status: 'stored', flags: [] })),
          skewMs: 0,
          effects: EFFECTS,
        },
      }
    : { status: 200, body: {} }
let person = 0
/** Each test has a person of its own: the device keeps what the others left. */
const signIn = async (): Promise<string> => {
  person += 1
  const owner = `firm/edits${person}`
  await openOutbox(owner)
  await until(() => useOutbox.getState().loaded && useKeptEdits.getState().owner === owner)
  return owner
}
const SITE = { path: '/api/sites', body: { id: 'a', name: 'Smokehouse' }, what: 'New site: Smokehouse' } as const
const STOP = { path: '/api/stops', body: { id: 'b' }, what: 'Stop at Smokehouse' } as const
const posts = (asked: readonly Asked[]): string[] => asked.filter(({ method }) => method === 'POST').map(({ path }) => path)

test('a new site goes out before the stop there and before any fact, however long the network was away', async () => {
  let network = false
  const { asked } = serverThat((one) => (network ? good(one) : 'no network'))
  await signIn()
  await keepEdit(SITE)
  await record(reading(1))
  await keepEdit(STOP)
  expect(useKeptEdits.getState().edits.map(({ what }) => what)).toEqual(['New site: Smokehouse', 'Stop at Smokehouse'])
  network = true
  asked.length = 0
  window.dispatchEvent(new Event('online'))
  await until(() => useOutbox.getState().entries.every(({ state }) => state === 'sent'))
  expect(posts(asked)).toEqual(['/api/sites', '/api/stops', '/api/facts'])
  expect(useKeptEdits.getState().edits).toEqual([])
})

test('what the server refuses stays with its words, what comes after goes on, and it can be sent again', async () => {
  let refuses = true
  serverThat((one) =>
    one.path === '/api/sites' && refuses
      ? { status: 403, body: { error: { code: 'NO_RIGHT', message: 'This needs the right to add sites.', retryable: false } } }
      : good(one),
  )
  await signIn()
  await keepEdit(SITE)
  await keepEdit(STOP)
  await until(() => useKeptEdits.getState().edits.length === 1)
  expect(useKeptEdits.getState().edits[0]).toMatchObject({ state: 'refused', message: 'This needs the right to add sites.' })
  refuses = false
  await retryEdits()
  await until(() => useKeptEdits.getState().edits.length === 0)
})

test('it outlives a reload, and nobody else on the device sees it or sends it', async () => {
  let network = false
  const { asked } = serverThat((one) => (network ? good(one) : 'no network'))
  const owner = await signIn()
  await keepEdit(SITE)
  await signIn()
  expect(useKeptEdits.getState().edits).toEqual([])
  network = true
  asked.length = 0
  await sendEdits()
  expect(posts(asked)).toEqual([])
  await openEdits(owner)
  await until(() => posts(asked).includes('/api/sites'))
})
