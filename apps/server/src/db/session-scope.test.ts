import type { Pool } from 'pg'
import { v7 as uuidv7 } from 'uuid'
import { asApiError } from '../http/failures'
import { peek } from '../testing/database'
import { addFirm, openWorld, type World } from '../testing/world'
import { dataSource } from './data-source'
import { MOST_WAITING, poolOf } from './scope'
import { sessionScope } from './session-scope'

let world: World
let firms: Awaited<ReturnType<typeof addFirm>>[]
beforeAll(async () => {
  world = await openWorld('empty')
  firms = [await addFirm(world, 'otterbank'), await addFirm(world, 'rival')]
})
afterAll(() => world.close())

interface SignIn {
  firmId: string
  personId: string
  token: string
  expired: boolean
}

/** Signed in without a password: what is looked up is the row. */
async function signIn(list: readonly SignIn[]): Promise<void> {
  const at = world.clock.now
  await peek(
    world.database,
    `insert into auth_session (id, token, user_id, firm_id, expires_at, created_at, updated_at)
     select gen_random_uuid(), token, "personId", "firmId", case when expired then $2::timestamptz else $2::timestamptz + interval '1 day' end, $2, $2
     from json_to_recordset($1) as s (token text, "personId" uuid, "firmId" uuid, expired boolean)`,
    [JSON.stringify(list), at],
  )
}
const signInsOf = (each: number): SignIn[] =>
  firms.flatMap(({ firmId, ownerId, technicianId }) =>
    [ownerId, technicianId].flatMap((personId) =>
      Array.from({ length: each }, (_, n) => ({ firmId, personId, token: uuidv7(), expired: n % 10 === 7 })),
    ),
  )
async function oneSignIn(): Promise<SignIn> {
  const [one] = signInsOf(1)
  if (one === undefined) throw new Error('nobody is there')
  await signIn([one])
  return one
}
const whoIs = (token: string) => world.deps.inSessionScope(token, world.clock.now)

test('many at once are looked up together, and each finds its own person and firm', async () => {
  const asked = signInsOf(40)
  await signIn(asked)
  const pool = poolOf(world.source) as Pool
  const sent = jest.spyOn(pool, 'query')
  const found = await Promise.all([...asked.map(({ token }) => whoIs(token)), whoIs('nobody’s'), whoIs(asked[0]?.token ?? '')])
  // 162 of them, 64 a statement, and perhaps one that went ahead of the others.
  expect(sent.mock.calls.length).toBeLessThanOrEqual(4)
  sent.mockRestore()
  for (const [index, { firmId, personId, expired }] of asked.entries()) {
    if (expired) expect(found[index]).toBeNull()
    else expect(found[index]).toMatchObject({ firmId, personId })
  }
  expect(found.at(-2)).toBeNull()
  expect(found.at(-1)?.personId).toBe(asked[0]?.personId)
})

test('a sign-in that was ended is not found by whoever asks afterwards, however many are under way', async () => {
  const { token } = await oneSignIn()
  // Both lots together are fewer than may wait: the first may all be waiting still when the second comes.
  const each = Math.floor(MOST_WAITING / 2)
  const before = Array.from({ length: each }, () => whoIs(token))
  await peek(world.database, 'delete from auth_session where token = $1', [token])
  const after = await Promise.all(Array.from({ length: each }, () => whoIs(token)))
  expect(after.every((found) => found === null)).toBe(true)
  await Promise.all(before)
})

test('so many may wait to be looked up; whoever comes then is told to come again, and those who wait are served', async () => {
  const { token, firmId, personId } = await oneSignIn()
  let open: () => void = () => undefined
  const held = new Promise<void>((resolve) => {
    open = resolve
  })
  let begun = 0
  const holders = Array.from({ length: 4 }, () =>
    world.deps.inFirm(firmId, () => {
      begun += 1
      return held
    }),
  )
  while (begun < 4) await new Promise((resolve) => setTimeout(resolve, 5))
  const waiting = Array.from({ length: MOST_WAITING }, () => whoIs(token))
  const beyond = await Promise.allSettled([whoIs(token), whoIs(token)])
  expect(beyond.map(({ status }) => status)).toEqual(['rejected', 'rejected'])
  expect(asApiError((beyond[0] as PromiseRejectedResult).reason).code).toBe('BUSY')
  open()
  await Promise.all(holders)
  expect((await Promise.all(waiting)).every((found) => found?.personId === personId)).toBe(true)
})

test('where the database cannot be asked, everybody who asked is told', async () => {
  const gone = dataSource({ url: world.database.appUrl, poolSize: 1 })
  await gone.initialize()
  const ask = sessionScope(gone)
  await gone.destroy()
  const answers = await Promise.allSettled([ask('a', world.clock.now), ask('b', world.clock.now)])
  expect(answers.map(({ status }) => status)).toEqual(['rejected', 'rejected'])
})
