import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundPage } from '@evenround/contract/rounds'
import { planRound, roundCost } from '@evenround/core/round'
import { v7 as uuidv7 } from 'uuid'
import { RoundRunRow } from '../../db/entities/round'
import { demoId } from '../../demo/ids'
import { peek } from '../../testing/database'
import { freshRoundOf, roundOf } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'
import { workRun } from './run'

let world: World
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

const look = (): Promise<RoundPage> => roundOf(isla)
const TAM = demoId('person', 'tam')

test('a run that is called off leaves the plan as it was; one that was silent too long is taken over with the parts it has', async () => {
  const { set } = await look()
  const row = { firmId: '', setId: set.id, cost: null, message: '', plan: null, askedBy: TAM, madeAt: world.clock.now }
  const firmId = (await peek<{ firm_id: string }>(world.database, 'select firm_id from round_set limit 1'))[0]?.firm_id as string
  const asked: number[] = []
  const work = (id: string) =>
    workRun(
      {
        inFirm: world.deps.inFirm,
        now: world.deps.now,
        plan: async (ask) => {
          asked.push(ask.seconds)
          const { days, cost } = planRound(ask.input, { iterations: 5, ...(ask.from ? { from: ask.from } : {}) })
          return { days, cost: cost.total }
        },
      },
      firmId,
      id,
      () => true,
    )
  const put = (id: string, more: object) =>
    world.deps.inFirm(firmId, (scope) =>
      scope.insert(RoundRunRow, {
        ...row,
        id,
        share: 0,
        parts: {},
        cancelled: false,
        state: 'waiting',
        changedAt: world.clock.now,
        ...more,
      } as never),
    )
  const [off, silent, busy] = [uuidv7(), uuidv7(), uuidv7()]
  await put(off, { cancelled: true })
  expect(await work(off)).toBe(true)
  expect((await isla.ask('GET', `/api/round/runs/${off}`)).body).toMatchObject({ state: 'cancelled', plan: null })
  expect(asked).toEqual([])
  // Two of four turns were done when it was killed: two are left.
  const { days } = planRound(inputOfSet(set), { iterations: 5 })
  const parts = { 'turn-0': days, 'turn-1': days }
  await put(busy, { state: 'running', parts })
  expect(await work(busy)).toBe(false)
  await put(silent, { state: 'running', parts, changedAt: new Date(world.clock.now.getTime() - 60_000) })
  expect(await work(silent)).toBe(true)
  expect(asked).toHaveLength(2)
  expect((await isla.ask('GET', `/api/round/runs/${silent}`)).body.state).toBe('done')
})

test('the server plans by itself: begun, done, taken as the plan in the making', async () => {
  const page = await freshRoundOf(isla)
  const id = uuidv7()
  expect((await isla.ask('POST', '/api/round/runs', { id, setId: page.set.id })).status).toBe(200)
  const run = (await isla.ask('GET', `/api/round/runs/${id}`)).body
  expect([run.state, run.share]).toEqual(['done', 1])
  expect(roundCost(inputOfSet(page.set), run.plan).broken).toEqual([])
  const stale = await isla.ask('POST', `/api/round/runs/${id}/take`, { version: page.draft.version + 9 })
  expect(stale.body.error.code).toBe('STALE_VERSION')
  const { version } = (await look()).draft
  expect((await isla.ask('POST', `/api/round/runs/${id}/take`, { version })).status).toBe(200)
  expect((await look()).draft.plan.cost.total).toBeCloseTo(run.plan.cost.total, 6)
})

test('a plan of the server is offered to everybody until it is applied or discarded; a newer one takes its place', async () => {
  await freshRoundOf(isla)
  const page = async () => (await isla.ask('GET', '/api/round')).body
  const runs = [uuidv7(), uuidv7(), uuidv7()] as const
  const plan = async (id: string): Promise<void> => {
    const { setId } = await page()
    expect((await isla.ask('POST', '/api/round/runs', { id, setId })).status).toBe(200)
  }
  await plan(runs[0])
  const { offered, underWay } = await page()
  expect([offered?.id, offered?.byName, underWay]).toEqual([runs[0], 'Isla Fennick', null])
  expect(offered?.plan).toEqual((await isla.ask('GET', `/api/round/runs/${runs[0]}`)).body.plan)
  await plan(runs[1])
  expect((await page()).offered?.id).toBe(runs[1])
  const discard = (id: string) => isla.ask('POST', `/api/round/runs/${id}/discard`)
  expect([(await discard(runs[1])).status, (await discard(uuidv7())).status]).toEqual([200, 404])
  expect((await page()).offered).toBeNull()
  await plan(runs[2])
  const { version } = (await page()).draft
  expect((await isla.ask('POST', `/api/round/runs/${runs[2]}/take`, { version })).status).toBe(200)
  const after = await page()
  expect([after.offered, after.draft.version > version]).toEqual([null, true])
})
