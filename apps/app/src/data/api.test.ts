import { serverThat } from '../testing/device'
import { ApiProblem, api, ask, fieldError, getPlain, onServerBack, postPlain } from './api'

const caught = async (work: Promise<unknown>): Promise<ApiProblem> => {
  try {
    await work
  } catch (error) {
    if (error instanceof ApiProblem) return error
    throw error
  }
  throw new Error('it was not refused')
}
const refusal = (error: object) => ({ status: 409, body: { error: { message: 'No.', retryable: false, ...error } } })

test('the typed client asks the server’s own paths and hands on the answer', async () => {
  const { asked } = serverThat(() => ({ status: 200, body: { sites: [] } }))
  expect(await ask(api.sites.$get())).toEqual({ sites: [] })
  expect(asked).toEqual([{ method: 'GET', path: '/api/sites', body: null }])
})

test('a refusal comes with its code, its fields and what stands on the server now', async () => {
  serverThat(() => refusal({ code: 'STALE_VERSION', fields: [{ path: 'name', message: 'expected a name' }], current: { version: 4 } }))
  const problem = await caught(ask(api.sites.$get()))
  expect(problem).toMatchObject({ code: 'STALE_VERSION', message: 'No.', retryable: false, current: { version: 4 } })
  expect([fieldError(problem, 'name'), fieldError(problem, 'village'), fieldError(new Error('x'), 'name')]).toEqual([
    'expected a name',
    undefined,
    undefined,
  ])
})

test.each([
  ['the typed client', () => ask(api.sites.$get())],
  ['a form', () => postPlain('/api/auth/sign-in', { email: 'a' })],
  ['a plain look', () => getPlain('/api/sign-in-hints')],
])('no network is said in words, and may be tried again: %s', async (_, work) => {
  serverThat(() => 'no network')
  expect(await caught(work())).toMatchObject({ code: 'OFFLINE', retryable: true })
})

test('an answer that is no answer of ours is not shown to anybody as it is', async () => {
  serverThat(() => ({ status: 502, body: undefined }))
  const problem = await caught(ask(api.sites.$get()))
  expect(problem).toMatchObject({ code: 'INTERNAL', retryable: true })
  expect(problem.message).toContain('502')
})

test('a form posts JSON and is content with a good answer', async () => {
  const { asked } = serverThat(() => ({ status: 200, body: { ok: true } }))
  await postPlain('/api/auth/sign-in', { email: 'tam@fennick.example' })
  expect(asked).toEqual([{ method: 'POST', path: '/api/auth/sign-in', body: { email: 'tam@fennick.example' } }])
})

test.each([
  [
    'what is kept on the device and sent later',
    () => ask(api.facts.$post({ json: { protocol: 1, deviceId: 'phone', sentAt: '2026-11-25T10:00:00.000Z', facts: [] } })),
    /^.* is kept on this device/,
  ],
  [
    'what is lost and has to be done again',
    () => ask(api.times['days-off'][':id'].$delete({ param: { id: 'off' } })),
    /Nothing was changed: try again/,
  ],
  ['so has a form', () => postPlain('/api/auth/sign-in', { email: 'a' }), /Nothing was changed: try again/],
])('without a network it says of an act %s', async (_, work, said) => {
  serverThat(() => 'no network')
  expect((await caught(work())).message).toMatch(said)
})

test('a server that answers again after it did not is told of once', async () => {
  const told = jest.fn()
  onServerBack(told)
  const answers = ['no network' as const, { status: 503, body: {} }, { status: 200, body: {} }, { status: 200, body: {} }]
  serverThat(() => answers.shift() ?? 'no network')
  const look = (): Promise<unknown> => getPlain('/api/sign-in-hints').catch(() => undefined)
  await look()
  await look()
  expect(told).not.toHaveBeenCalled()
  await look()
  await look()
  expect(told).toHaveBeenCalledTimes(1)
})
