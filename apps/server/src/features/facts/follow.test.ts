import type { Train } from '@evenround/core/train'
import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, begun, changed, ended, fitted, ticked, tickedAtOnce } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let technician: Person
let owner: Person

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'mill')
  technician = await world.signIn(firm.email('technician'))
  owner = await world.signIn(firm.email('owner'))
})
afterAll(() => world.close())

const place = () => ({ siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() })
const send = (...facts: Fact[]) => technician.ask('POST', '/api/facts', batch(...facts))
const statuses = (body: { results: { status: string; reason?: string }[] }): string[] =>
  body.results.map(({ status, reason }) => (reason ? `${status}: ${reason}` : status))
interface FollowRow {
  id: string
  day: string
  follows_why: string
  not_before: Date | null
  not_after: Date | null
  arrive_min: number
}
/** Two stages of the firm's. */
function stages(): [string, string] {
  const [one, two] = firm.stageIds
  if (!one || !two) throw new Error('the firm has fewer than two stages')
  return [one, two]
}
const followUps = (visitId: string) =>
  peek<FollowRow>(world.database, 'select id, day, follows_why, not_before, not_after, arrive_min from stop where follows_visit = $1', [
    visitId,
  ])
const tasksOf = (stopId: string) =>
  peek<{ stage_id: string; action: string }>(world.database, 'select stage_id, action from stop_task where stop_id = $1', [stopId])

/** Two carbon tanks side by side, each between two valves and with a cock. */
function twinBeds(one: string, two: string): Train {
  const bed = (id: string, position: number): Train['nodes'][number] =>
    ({ id, kind: 'stage', media: 'carbon-tank', housing: 'media-tank', position, drainCocks: 1 }) as const
  const row = (...nodes: string[]): Train['pipes'] => nodes.slice(1).map((to, index) => ({ from: nodes[index] as string, to }))
  return {
    nodes: [
      { id: 'source', kind: 'source' },
      bed(one, 1),
      bed(two, 2),
      ...['v1', 'w1', 'v2', 'w2'].map((id) => ({ id, kind: 'valve' as const, turns: 'quarter' as const })),
      { id: 't1', kind: 'tee' },
      { id: 't2', kind: 'tee' },
      { id: 'tap', kind: 'outlet', use: 'house' },
    ],
    pipes: [...row('source', 't1', 'v1', one, 'w1', 't2', 'tap'), ...row('t1', 'v2', two, 'w2', 't2')],
  }
}

test('a bed left to soak gets its second visit, 48 hours after it really began to soak', async () => {
  const at = place()
  const bed = { stage: firm.stageIds[0], action: 'refill' as const }
  const soaked = ticked(at, `soak/soak:${bed.stage}`, { at: '2026-11-23T10:20:00.000Z' })
  await send(
    begun(at, { at: '2026-11-23T08:00:00.000Z', tasks: [bed] } as Partial<Fact>),
    soaked,
    fitted(at, bed.stage, { at: '2026-11-23T10:00:00.000Z' }),
    ended(at, { at: '2026-11-23T10:30:00.000Z' }),
  )
  const [follow, ...more] = await followUps(at.visitId)
  expect(more).toEqual([])
  expect(follow).toMatchObject({ follows_why: 'soak', day: '2026-11-25' })
  expect(follow?.not_before?.toISOString()).toBe('2026-11-25T10:20:00.000Z')
  expect(follow?.not_after?.toISOString()).toBe('2026-12-07T10:20:00.000Z')
  expect(await tasksOf(follow?.id ?? '')).toEqual([{ stage_id: bed.stage, action: 'refill' }])
})

test('the second visit itself leaves none behind, and finishing twice makes one follow-up', async () => {
  const first = place()
  const bed = { stage: firm.stageIds[0], action: 'refill' as const }
  const facts = [
    begun(first, { tasks: [bed] } as Partial<Fact>),
    ticked(first, `soak/soak:${bed.stage}`),
    fitted(first, bed.stage),
    ended(first),
  ]
  await send(...facts)
  await send(...facts, ended(first))
  const [follow, ...more] = await followUps(first.visitId)
  expect(more).toEqual([])
  const second = place()
  await send(begun(second, { stopId: follow?.id, tasks: [bed] } as Partial<Fact>), ended(second))
  expect(await followUps(second.visitId)).toEqual([])
})

test('twin beds side by side take turns: the second is filled when the first runs again, and has a visit of its own', async () => {
  const [one, two] = stages()
  const drawn = (train: unknown) =>
    peek(world.database, 'update train_version set train = $2 where system_id = $1', [firm.systemId, JSON.stringify(train)])
  const [before] = await peek<{ train: unknown }>(world.database, 'select train from train_version where system_id = $1', [firm.systemId])
  await drawn(twinBeds(one, two))
  const tasks = [one, two].map((stage) => ({ stage, action: 'refill' as const }))
  const soaks = (at: ReturnType<typeof place>, stage: string, day: string) => [
    ticked(at, `soak/soak:${stage}`, { at: `${day}T10:20:00.000Z` }),
    fitted(at, stage, { at: `${day}T10:00:00.000Z` }),
    ended(at, { at: `${day}T10:30:00.000Z` }),
  ]
  const first = place()
  await send(begun(first, { at: '2026-11-23T08:00:00.000Z', tasks } as Partial<Fact>), ...soaks(first, one, '2026-11-23'))
  const [second, ...more] = await followUps(first.visitId)
  expect([more, second?.day]).toEqual([[], '2026-11-25'])
  expect((await tasksOf(second?.id ?? '')).map(({ stage_id }) => stage_id).sort()).toEqual([one, two].sort())
  const next = place()
  await send(begun(next, { at: '2026-11-25T08:00:00.000Z', stopId: second?.id, tasks } as Partial<Fact>), ...soaks(next, two, '2026-11-25'))
  const [third] = await followUps(next.visitId)
  expect([third?.follows_why, third?.day, (await tasksOf(third?.id ?? '')).map(({ stage_id }) => stage_id)]).toEqual([
    'soak',
    '2026-11-27',
    [two],
  ])
  const last = place()
  await send(begun(last, { stopId: third?.id, tasks: tasks.slice(1) } as Partial<Fact>), ended(last))
  expect(await followUps(last.visitId)).toEqual([])
  await drawn(before?.train)
})

test('what was not done is put on the road again, and only that; nothing where all of it was done', async () => {
  const [one, two] = stages()
  const tasks = [one, two].map((stage) => ({ stage, action: 'change' as const }))
  const friday = { at: '2026-11-27T10:00:00.000Z' }
  const partly = place()
  await send(
    begun(partly, { ...friday, tasks } as Partial<Fact>),
    fitted(partly, one, friday),
    ended(partly, { ...friday, outcome: 'partly-done' } as Partial<Fact>),
  )
  const [again] = await followUps(partly.visitId)
  expect(again).toMatchObject({ follows_why: 'partly-done', day: '2026-11-30', not_before: null })
  expect((await tasksOf(again?.id ?? '')).map(({ stage_id }) => stage_id)).toEqual([two])
  const nobody = place()
  await send(begun(nobody, { ...friday, tasks } as Partial<Fact>), ended(nobody, { ...friday, outcome: 'nobody-home' } as Partial<Fact>))
  expect((await followUps(nobody.visitId)).map(({ follows_why }) => follows_why)).toEqual(['nobody-home'])
  const missing = place()
  await send(begun(missing, { ...friday, tasks } as Partial<Fact>), ended(missing, { ...friday, outcome: 'part-missing' } as Partial<Fact>))
  expect((await followUps(missing.visitId)).map(({ day }) => day)).toEqual(['2026-12-02'])
  const done = place()
  await send(begun(done, { ...friday, tasks } as Partial<Fact>), fitted(done, one, friday), fitted(done, two, friday), ended(done, friday))
  expect(await followUps(done.visitId)).toEqual([])
})

test('what goes on is the work as it was changed: what was left is not of it, what was taken in is', async () => {
  const [one, two] = stages()
  const at = place()
  const { body } = await send(
    begun(at, { tasks: [{ stage: one, action: 'change' }] } as Partial<Fact>),
    changed(at, two, 'change'),
    changed(at, one, null),
    ended(at, { outcome: 'partly-done', leftStanding: ['The feed valve is shut.'] } as Partial<Fact>),
  )
  expect(statuses(body)).toEqual(['accepted', 'accepted', 'accepted', 'accepted'])
  const [again] = await followUps(at.visitId)
  expect((await tasksOf(again?.id ?? '')).map(({ stage_id }) => stage_id)).toEqual([two])
  const page = await technician.ask('GET', `/api/stops/${again?.id}`)
  expect(page.body.stop.follows).toMatchObject({ why: 'partly-done', leftStanding: ['The feed valve is shut.'] })
})

test('water that is not right yet is looked at again on the next working day, at the stages it is about', async () => {
  const [one, two] = stages()
  const friday = { at: '2026-11-27T10:00:00.000Z' }
  const at = place()
  const tasks = [one, two].map((stage) => ({ stage, action: 'change' as const }))
  const { body } = await send(
    begun(at, { ...friday, tasks } as Partial<Fact>),
    fitted(at, one, friday),
    fitted(at, two, friday),
    ended(at, { ...friday, outcome: 'not-right', notRight: [two] } as Partial<Fact>),
  )
  expect(statuses(body)).toEqual(Array(4).fill('accepted'))
  const [again] = await followUps(at.visitId)
  expect(again).toMatchObject({ follows_why: 'not-right', day: '2026-11-30' })
  expect(await tasksOf(again?.id ?? '')).toEqual([{ stage_id: two, action: 'change' }])
})

test('an ending that is corrected takes its follow-up along: none where all was done after all', async () => {
  const [one, two] = stages()
  const at = place()
  const tasks = [one, two].map((stage) => ({ stage, action: 'change' as const }))
  const end = ended(at, { outcome: 'partly-done' } as Partial<Fact>)
  await send(begun(at, { tasks } as Partial<Fact>), fitted(at, one), end)
  expect(await followUps(at.visitId)).toHaveLength(1)
  await send(fitted(at, two), ended(at, { supersedes: end.id } as Partial<Fact>))
  expect(await followUps(at.visitId)).toEqual([])
})

test('what was done, planned or not, leaves every other stop at once; a stop with nothing left goes', async () => {
  const [one, two] = stages()
  const stopFor = async (...stageIds: string[]): Promise<string> => {
    const id = uuidv7()
    const tasks = stageIds.map((stageId) => ({ stageId, action: 'change' }))
    expect((await technician.ask('POST', '/api/stops', { id, systemId: firm.systemId, tasks })).status).toBeLessThan(300)
    return id
  }
  const [both, only, begunAlready] = [await stopFor(one, two), await stopFor(one), await stopFor(one)]
  const other = place()
  await send(begun(other, { stopId: begunAlready, tasks: [{ stage: one, action: 'change' }] } as Partial<Fact>))
  const at = place()
  await send(begun(at, { tasks: [{ stage: one, action: 'change' }] } as Partial<Fact>), fitted(at, one), ended(at))
  expect((await tasksOf(both)).map(({ stage_id }) => stage_id)).toEqual([two])
  expect(await peek(world.database, 'select id from stop where id = $1', [only])).toEqual([])
  // Somebody is at it: what they do is theirs to say.
  expect(await tasksOf(begunAlready)).toHaveLength(1)
})

test('a block ticked at once is kept whole, with its steps in their order', async () => {
  const at = place()
  const keys = ['isolate/close:feed', `change-x/loosen:${firm.stageIds[0]}`]
  const { body } = await send(begun(at), tickedAtOnce(at, 'Shut and relieve', keys))
  expect(statuses(body)).toEqual(['accepted', 'accepted'])
  const page = await technician.ask('GET', `/api/visits/${at.visitId}`)
  const block = page.body.facts.map(({ fact }: { fact: Fact }) => fact).find(({ kind }: Fact) => kind === 'block-done')
  expect(block).toMatchObject({
    block: 'Shut and relieve',
    steps: [
      { stepKey: keys[0], verb: 'close', stageId: null },
      { stepKey: keys[1], verb: 'loosen', stageId: firm.stageIds[0] },
    ],
  })
})

test('a follow-up that cannot begin that day before evening, or falls on a weekend, goes to the next working day', async () => {
  const bed = { stage: firm.stageIds[0], action: 'refill' as const }
  const before = world.clock.now
  const soakedAt = async (instant: string): Promise<FollowRow | undefined> => {
    const at = place()
    // Sent an hour later: nothing is filed after it has arrived.
    world.clock.now = new Date(Date.parse(instant) + 3_600_000)
    const facts = batch(
      begun(at, { at: instant, tasks: [bed] } as Partial<Fact>),
      ticked(at, `soak/soak:${bed.stage}`, { at: instant }),
      fitted(at, bed.stage, { at: instant }),
      ended(at, { at: instant }),
    )
    await technician.ask('POST', '/api/facts', { ...facts, sentAt: world.clock.now.toISOString() })
    return (await followUps(at.visitId))[0]
  }
  expect((await soakedAt('2026-11-23T20:00:00.000Z'))?.day).toBe('2026-11-26')
  expect((await soakedAt('2026-11-26T10:00:00.000Z'))?.day).toBe('2026-11-30')
  world.clock.now = before
})

describe('holds', () => {
  const hold = (at: ReturnType<typeof place>, more: object): Fact =>
    ({
      ...ticked(at, 'x'),
      kind: 'hold-begun',
      stepKey: undefined,
      answer: undefined,
      holdKind: 'low-flow',
      until: null,
      text: 'Low flow only.',
      ...more,
    }) as unknown as Fact
  const lift = (at: ReturnType<typeof place>, holdId: string, more: object = {}): Fact =>
    ({
      ...ticked(at, 'x'),
      kind: 'hold-lifted',
      stepKey: undefined,
      answer: undefined,
      holdId,
      proof: 'Its time is over.',
      ...more,
    }) as unknown as Fact
  const shown = async (): Promise<string[]> =>
    (await technician.ask('GET', `/api/sites/${firm.siteId}`)).body.holds.map(({ id }: { id: string }) => id)

  test('one that ended by time asks to be lifted, and goes once it was', async () => {
    const at = place()
    const ended = hold(at, { until: new Date(Date.now() - 3_600_000).toISOString() })
    await send(begun(at), ended)
    expect(await shown()).toContain(ended.id)
    expect(statuses((await send(lift(at, ended.id))).body)).toEqual(['accepted'])
    expect(await shown()).not.toContain(ended.id)
  })

  test('one for safety is lifted by the office with its proof, not by the technician', async () => {
    const at = place()
    const unsafe = hold(at, { holdKind: 'do-not-drink', until: null, text: 'Do not drink until the result is back.' })
    await send(begun(at), unsafe)
    expect(statuses((await send(lift(at, unsafe.id))).body)).toEqual(['refused: hold-needs-right'])
    expect(await shown()).toContain(unsafe.id)
    const proved = lift(at, unsafe.id, { proof: 'Total coliform absent, laboratory slip 114.' })
    expect(statuses((await owner.ask('POST', '/api/facts', batch(proved))).body)).toEqual(['accepted'])
    expect(await shown()).not.toContain(unsafe.id)
  })

  test('a hold nobody knows cannot be lifted', async () => {
    const at = place()
    expect(statuses((await send(begun(at), lift(at, uuidv7()))).body)).toEqual(['accepted', 'refused: unknown-reference'])
  })
})

test('a surprise is kept with its step, whatever its key’s length', async () => {
  const at = place()
  const stepKey = `flush-${uuidv7()}/flush:${Array.from({ length: 6 }, () => uuidv7()).join('+')}`
  const surprise = { ...ticked(at, stepKey), kind: 'step-surprise', surprise: 'keeps-running', stageId: null } as unknown as Fact
  expect(statuses((await send(begun(at), surprise, ticked(at, stepKey))).body)).toEqual(['accepted', 'accepted', 'accepted'])
  const page = await technician.ask('GET', `/api/visits/${at.visitId}`)
  expect(page.body.facts.map(({ fact }: { fact: Fact }) => fact.kind)).toContain('step-surprise')
})
