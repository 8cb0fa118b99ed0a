import type { FactResult } from '@evenround/contract/visit'
import type { Fact } from '@evenround/core/visit'
import { type Answer, type Asked, serverThat, until } from '../testing/device'
import { reading } from '../testing/facts'
import { openOutbox, record, retryRefused, unsentAsFile, useOutbox } from './outbox'

const OWNER = 'firm/tam'
interface Batch {
  protocol: number
  facts: Fact[]
}
const factsOf = ({ body }: Asked): Fact[] => (body as Batch).facts
const EFFECTS = { visits: [], followUps: [], holds: [], systems: [] }
const settled = (asked: Asked, one: (fact: Fact) => Partial<FactResult> = () => ({})): Answer => ({
  status: 200,
  body: {
    results: factsOf(asked).map((fact) => ({ id: fact.id, status: 'stored', flags: [], ...one(fact) })),
    skewMs: 0,
    effects: EFFECTS,
  },
})
const states = (): string[] => useOutbox.getState().entries.map(({ state }) => state)

let person = 0
/** Each test has a person of its own: the device keeps what the others left. */
const signIn = async (): Promise<string> => {
  person += 1
  const owner = `${OWNER}${person}`
  await openOutbox(owner)
  await until(() => useOutbox.getState().loaded)
  return owner
}

test('nobody writes before somebody has signed in', async () => {
  await expect(record(reading(1))).rejects.toThrow('nobody is signed in')
})

test('what is written stands on the device at once, goes out in order, and is then sent', async () => {
  const { asked } = serverThat((one) => settled(one))
  await signIn()
  const made = [...(await record(reading(1), reading(2))), ...(await record(reading(3)))]
  expect(made.map(({ seq }) => seq - (made[0]?.seq ?? 0))).toEqual([0, 1, 2])
  expect(new Set(made.map(({ id }) => id)).size).toBe(3)
  await until(() => states().every((state) => state === 'sent'))
  expect(asked.flatMap(factsOf).map(({ id }) => id)).toEqual(made.map(({ id }) => id))
  expect(asked.every(({ method, path }) => method === 'POST' && path === '/api/facts')).toBe(true)
})

test('without a network all is kept and said; it goes on by itself once the network is back', async () => {
  let network = false
  serverThat((one) => (network ? settled(one) : 'no network'))
  await signIn()
  await record(reading(1))
  await until(() => useOutbox.getState().trouble !== null)
  expect(states()).toEqual(['waiting'])
  expect(useOutbox.getState().trouble).toContain('kept on this device')
  network = true
  window.dispatchEvent(new Event('online'))
  await until(() => states().every((state) => state === 'sent'))
  expect(useOutbox.getState().trouble).toBeNull()
})

test('a fact the server refuses is kept apart with its reason; those behind it are sent, and it can be tried again', async () => {
  let strict = true
  serverThat((one) =>
    settled(one, (fact) =>
      strict && fact.kind === 'tds-reading' && fact.display === 2 ? { status: 'refused', reason: 'unknown-site' } : {},
    ),
  )
  await signIn()
  await record(reading(1), reading(2), reading(3))
  await until(() => !states().includes('waiting'))
  expect(states()).toEqual(['sent', 'refused', 'sent'])
  expect(useOutbox.getState().entries[1]?.reason).toBe('unknown-site')
  const file = unsentAsFile()
  expect([file.type, file.size > 100]).toEqual(['application/json', true])
  strict = false
  await retryRefused()
  await until(() => states().every((state) => state === 'sent'))
})

test('a batch that is refused as a whole for one fact does not block the others', async () => {
  const { asked } = serverThat((one) =>
    factsOf(one).some((fact) => fact.kind === 'tds-reading' && fact.display === 13)
      ? { status: 400, body: { error: { code: 'BAD_INPUT', message: 'facts[3]', retryable: false } } }
      : settled(one),
  )
  await signIn()
  await record(...Array.from({ length: 20 }, (_, index) => reading(index)))
  await until(() => !states().includes('waiting'))
  expect(states().filter((state) => state === 'refused')).toHaveLength(1)
  expect(useOutbox.getState().entries[13]).toMatchObject({ state: 'refused', reason: 'bad-form' })
  expect(asked.length).toBeLessThan(16)
})

test('whoever has to sign in again loses nothing: it waits', async () => {
  serverThat(() => ({ status: 401, body: { error: { code: 'NOT_SIGNED_IN', message: 'Sign in first.', retryable: false } } }))
  await signIn()
  await record(reading(1))
  await until(() => useOutbox.getState().trouble !== null)
  expect(states()).toEqual(['waiting'])
  expect(useOutbox.getState().trouble).toBe('Sign in first.')
})

test('another person of the device sees and sends nothing of it; the first finds it again', async () => {
  const { asked } = serverThat(() => 'no network')
  const first = await signIn()
  await record(reading(77))
  await until(() => useOutbox.getState().trouble !== null)
  await signIn()
  expect(useOutbox.getState().entries).toEqual([])
  const before = asked.length
  window.dispatchEvent(new Event('online'))
  await record(reading(78))
  await until(() => asked.length > before)
  for (const one of asked.slice(before)) expect(factsOf(one).map((fact) => (fact.kind === 'tds-reading' ? fact.display : 0))).toEqual([78])
  await openOutbox(first)
  await until(() => useOutbox.getState().loaded)
  expect(useOutbox.getState().entries.map(({ fact }) => (fact.kind === 'tds-reading' ? fact.display : 0))).toEqual([77])
})

test('a clock that is off is said, once it is off by minutes', async () => {
  let skewMs = 30_000
  serverThat((one) => {
    const { body } = settled(one) as { body: object }
    return { status: 200, body: { ...body, skewMs } }
  })
  await signIn()
  await record(reading(1))
  await until(() => states().every((state) => state === 'sent'))
  expect(useOutbox.getState().skewMs).toBeNull()
  skewMs = -600_000
  await record(reading(2))
  await until(() => useOutbox.getState().skewMs !== null)
  expect(useOutbox.getState().skewMs).toBe(-600_000)
})

test('a clock that was ahead when it was written and was set back since is said with the fact; one that stood says nothing', async () => {
  let network = false
  const { asked } = serverThat((one) => (network ? settled(one) : 'no network'))
  await signIn()
  const [ahead] = await record(reading(1))
  // An hour goes by that the device's clock knows nothing of: it was set back meanwhile.
  const right = performance.now.bind(performance)
  jest.spyOn(performance, 'now').mockImplementation(() => right() + 3_600_000)
  const [now] = await record(reading(2))
  network = true
  window.dispatchEvent(new Event('online'))
  await until(() => states().every((state) => state === 'sent'))
  const sent = asked.findLast(({ path }) => path === '/api/facts') as Asked
  const { notAfter = {} } = sent.body as { notAfter?: Record<string, string> }
  expect(Object.keys(notAfter)).toEqual([ahead?.id])
  expect(Math.abs(Date.parse(notAfter[ahead?.id ?? ''] ?? '') + 3_600_000 - Date.now())).toBeLessThan(60_000)
  expect(now?.id).not.toBe(ahead?.id)
  jest.restoreAllMocks()
})
