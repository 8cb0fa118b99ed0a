import { v7 as uuidv7 } from 'uuid'
import { TooManyWaiting } from '../../db/errors'
import type { AskFirm } from '../../db/scope'
import { peek } from '../../testing/database'
import { begun, ticked } from '../../testing/facts'
import { addFirm, openWorld, type World } from '../../testing/world'
import { plainRowsOf } from './plain'
import { storedTogetherBy } from './together'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let personId: string
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'tide')
  personId = (await peek<{ id: string }>(world.database, 'select id from person where firm_id = $1 limit 1', [firm.firmId]))[0]?.id ?? ''
})
afterAll(() => world.close())

const batchOf = (count: number) => {
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  return [begun(at), ...Array.from({ length: count - 1 }, (_, index) => ticked(at, `step-${index}`))]
}
const rowsOf = (facts: ReturnType<typeof batchOf>) =>
  plainRowsOf(facts, { who: { personId }, deviceId: uuidv7(), skewMs: 0 }, world.clock.now)
const storedOf = async (ids: readonly string[]) =>
  (await peek(world.database, 'select 1 from fact_receipt where firm_id = $1 and id = any($2)', [firm.firmId, ids])).length

/** Asks as the server does, counts how often, and fails where it is told to. */
function counted(fails: (turn: number) => boolean = () => false, failure: Error = new Error('refused')) {
  const turns = { taken: 0 }
  const ask: AskFirm = async (firmId, statement) => {
    if (fails(++turns.taken)) throw failure
    return world.deps.askFirm(firmId, statement)
  }
  return { turns, store: storedTogetherBy(ask) }
}

test('what comes while a statement is under way goes with the next one; each batch learns of its own facts', async () => {
  const { turns, store } = counted()
  const batches = Array.from({ length: 24 }, () => batchOf(5))
  const answers = await Promise.all(batches.map((facts) => store(firm.firmId, rowsOf(facts))))
  for (const [index, facts] of batches.entries()) for (const { id } of facts) expect(answers[index]?.has(id)).toBe(true)
  expect(await storedOf(batches.flat().map(({ id }) => id))).toBe(120)
  // Two at once by themselves, and the other twenty-two in few.
  expect(turns.taken).toBeLessThanOrEqual(6)
})

test('the same batch twice is stored once, and the second finds nothing left to store', async () => {
  const { store } = counted()
  const facts = batchOf(4)
  const [first, second] = await Promise.allSettled([store(firm.firmId, rowsOf(facts)), store(firm.firmId, rowsOf(facts))])
  const sizes = [first, second].map((one) => (one?.status === 'fulfilled' ? one.value.size : 'failed'))
  expect([...sizes].sort()).toEqual(expect.arrayContaining([4]))
  expect(sizes.filter((size) => size === 4)).toHaveLength(1)
  expect(await storedOf(facts.map(({ id }) => id))).toBe(4)
})

test('of a statement that fails each batch is tried by itself, so that one does not hold up the others', async () => {
  const [quick, other, ...some] = Array.from({ length: 6 }, () => batchOf(3))
  if (!quick || !other) throw new Error('no batches')
  // The first two go at once; what waits behind them goes together as the third, which fails.
  const { turns, store } = counted((turn) => turn === 3 || turn === 5)
  const answers = await Promise.allSettled([quick, other, ...some].map((facts) => store(firm.firmId, rowsOf(facts))))
  expect(answers.filter(({ status }) => status === 'rejected')).toHaveLength(1)
  expect(answers.filter((one) => one.status === 'fulfilled' && one.value.size >= 3)).toHaveLength(5)
  expect(turns.taken).toBeGreaterThanOrEqual(5)
})

test.each([
  ['too busy', new TooManyWaiting('too many wait')],
  ['away', Object.assign(new Error('away'), { code: 'ECONNREFUSED' })],
])('a database that is %s is not asked once more for each: the batches come again whole', async (_, failure) => {
  const { turns, store } = counted(() => true, failure)
  const batches = Array.from({ length: 10 }, () => batchOf(2))
  const answers = await Promise.allSettled(batches.map((facts) => store(firm.firmId, rowsOf(facts))))
  expect(answers.map((one) => one.status === 'rejected' && one.reason === failure)).toEqual(Array(10).fill(true))
  expect(turns.taken).toBeLessThanOrEqual(4)
})

test('a beginning at no system of ours keeps back what follows it, and nothing beside it', async () => {
  const { store } = counted()
  const [good, bad] = [batchOf(3), batchOf(3)]
  const [first] = bad
  const moved = bad.map((fact) => (fact === first ? { ...fact, systemId: uuidv7() } : fact)) as typeof bad
  const [one, two] = await Promise.all([store(firm.firmId, rowsOf(good)), store(firm.firmId, rowsOf(moved))])
  expect(good.every(({ id }) => one.has(id))).toBe(true)
  expect(moved.some(({ id }) => two.has(id))).toBe(false)
  expect(await storedOf(moved.map(({ id }) => id))).toBe(0)
})
