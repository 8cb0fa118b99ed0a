import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { createApp } from '../../app'
import { TooManyWaiting } from '../../db/errors'
import { peek } from '../../testing/database'
import { batch, begun, ended, fitted, measured, ticked } from '../../testing/facts'
import { addFirm, asker, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let technician: Person
const place = () => ({ siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() })
const statuses = (body: { results: { status: string; reason?: string }[] }): string[] =>
  body.results.map(({ status, reason }) => (reason ? `${status}: ${reason}` : status))

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'mill')
  technician = await world.signIn(firm.email('technician'))
})
afterAll(() => world.close())

test('a batch is stored, each fact answered for; the visit reads back as sent', async () => {
  const at = place()
  const facts = [begun(at), measured(at, 41.2, { multiplier: 10 }), ticked(at, 'isolate/close:v'), fitted(at, firm.stageIds[0]), ended(at)]
  const answer = await technician.ask('POST', '/api/facts', batch(...facts))
  expect(statuses(answer.body)).toEqual(['accepted', 'accepted', 'accepted', 'accepted', 'accepted'])
  const page = await technician.ask('GET', `/api/visits/${at.visitId}`)
  expect(page.body.facts.map(({ fact }: { fact: unknown }) => fact)).toEqual(expect.arrayContaining(facts))
  const [row] = await peek<{ tds_mg_l: number }>(world.database, 'select tds_mg_l from fact_tds_reading where visit_id = $1', [at.visitId])
  expect(row?.tds_mg_l).toBeCloseTo(412, 9)
})

test('sending again is harmless, also at the same moment', async () => {
  const at = place()
  const facts = batch(begun(at), ticked(at, 'a'), ticked(at, 'b'))
  const together = await Promise.all([1, 2, 3, 4].map(() => technician.ask('POST', '/api/facts', facts)))
  const all = together.flatMap(({ body }) => statuses(body))
  expect(all.filter((status) => status === 'accepted')).toHaveLength(3)
  expect(all.filter((status) => status === 'already-had')).toHaveLength(9)
  expect(await peek(world.database, 'select id from fact_step_done where visit_id = $1', [at.visitId])).toHaveLength(2)
})

test('another content under the same id is refused, the first one stands', async () => {
  const at = place()
  const tick = ticked(at, 'first')
  await technician.ask('POST', '/api/facts', batch(begun(at), tick))
  const answer = await technician.ask('POST', '/api/facts', batch({ ...tick, stepKey: 'second' }))
  expect(statuses(answer.body)).toEqual(['refused: id-reused'])
  expect(await peek(world.database, 'select step_key from fact_step_done where visit_id = $1', [at.visitId])).toEqual([
    { step_key: 'first' },
  ])
})

test('each fact is judged on its own: a bad one does not hold up the good ones', async () => {
  const at = place()
  const answer = await technician.ask(
    'POST',
    '/api/facts',
    batch(begun(at), { id: 'x', kind: 'step-done' }, fitted(at, uuidv7()), ticked(at, 'k')),
  )
  expect(statuses(answer.body)).toEqual(['accepted', 'refused: bad-form', 'refused: unknown-reference', 'accepted'])
  expect(answer.body.results[1].problems.map(({ path }: { path: string }) => path)).toEqual(expect.arrayContaining(['id', 'at', 'stepKey']))
})

test('what belongs to a refused beginning waits with it', async () => {
  const at = { ...place(), systemId: uuidv7() }
  const answer = await technician.ask('POST', '/api/facts', batch(begun(at), ticked(at, 'k'), ended(at)))
  expect(statuses(answer.body)).toEqual(['refused: unknown-reference', 'refused: depends-on-refused', 'refused: depends-on-refused'])
  expect(await peek(world.database, 'select id from fact_receipt where visit_id = $1', [at.visitId])).toHaveLength(0)
})

test('a technician corrects his own facts; the office may correct his', async () => {
  const at = place()
  const reading = measured(at, 400)
  await technician.ask('POST', '/api/facts', batch(begun(at), reading))
  const owner = await world.signIn(firm.email('owner'))
  expect(statuses((await owner.ask('POST', '/api/facts', batch(measured(at, 401, { supersedes: reading.id })))).body)).toEqual(['accepted'])
  const theirs = measured(at, 300)
  await owner.ask('POST', '/api/facts', batch(theirs))
  expect(statuses((await technician.ask('POST', '/api/facts', batch(measured(at, 301, { supersedes: theirs.id })))).body)).toEqual([
    'refused: not-own',
  ])
  expect(statuses((await technician.ask('POST', '/api/facts', batch(ticked(at, 'k', { supersedes: reading.id })))).body)).toEqual([
    'refused: unknown-reference',
  ])
})

test('a viewer may not record', async () => {
  const viewer = await world.signIn(firm.email('viewer'))
  const at = place()
  expect(statuses((await viewer.ask('POST', '/api/facts', batch(begun(at)))).body)).toEqual(['refused: no-right'])
})

test('a clock that is off by more than two minutes is shown and put right', async () => {
  const at = place()
  const ahead = 3_600_000
  const fact = begun(at, { at: new Date(Date.now() + ahead).toISOString() })
  world.clock.now = new Date()
  const answer = await technician.ask('POST', '/api/facts', { ...batch(fact), sentAt: new Date(Date.now() + ahead).toISOString() })
  expect(answer.body.results[0]).toMatchObject({ status: 'accepted', flags: ['clock-skew'] })
  expect(Math.abs(answer.body.skewMs - ahead)).toBeLessThan(60_000)
  const [row] = await peek<{ at: Date }>(world.database, 'select at from fact_visit_begun where visit_id = $1', [at.visitId])
  expect(Math.abs((row?.at.getTime() ?? 0) - Date.now())).toBeLessThan(60_000)
})

test('a fact from the future is flagged and filed when it came, not a day off', async () => {
  const at = place()
  const tomorrow = new Date(Date.now() + 26 * 3_600_000).toISOString()
  // The clock was a day ahead when it was recorded, and right again when it was sent.
  world.clock.now = new Date()
  const answer = await technician.ask('POST', '/api/facts', batch(begun(at, { at: tomorrow })))
  expect(answer.body.results[0]).toMatchObject({ status: 'accepted', flags: ['clock-skew'] })
  const [row] = await peek<{ at: Date }>(world.database, 'select at from fact_visit_begun where visit_id = $1', [at.visitId])
  expect(Math.abs((row?.at.getTime() ?? 0) - Date.now())).toBeLessThan(60_000)
})

test('a clock that was ahead and was set back: the fact is filed when it can have happened, also when it is sent twice', async () => {
  const at = place()
  world.clock.now = new Date()
  const fact = begun(at, { at: new Date(Date.now() + 40 * 60_000).toISOString() })
  const can = new Date(Date.now() - 15 * 60_000)
  const sent = { ...batch(fact), notAfter: { [fact.id]: can.toISOString() } }
  expect((await technician.ask('POST', '/api/facts', sent)).body.results[0]).toMatchObject({ status: 'accepted', flags: ['clock-skew'] })
  const [row] = await peek<{ at: Date }>(world.database, 'select at from fact_visit_begun where visit_id = $1', [at.visitId])
  expect(row?.at.getTime()).toBe(can.getTime())
  expect((await technician.ask('POST', '/api/facts', sent)).body.results[0].status).toBe('already-had')
  // A bound that lies after the fact says nothing.
  const right = begun(place(), { at: can.toISOString() })
  const answer = await technician.ask('POST', '/api/facts', { ...batch(right), notAfter: { [right.id]: new Date().toISOString() } })
  expect(answer.body.results[0].flags).toEqual([])
})

test('work after the end, and on a train that moved on, is accepted and flagged', async () => {
  const at = place()
  const done = ended(at, { at: new Date(Date.now() - 60_000).toISOString() })
  const answer = await technician.ask(
    'POST',
    '/api/facts',
    batch(begun(at, { trainVersion: 7, stopId: uuidv7() }), done, ticked(at, 'late')),
  )
  expect(answer.body.results.map(({ flags }: { flags: string[] }) => flags)).toEqual([
    ['stop-changed', 'train-changed'],
    [],
    ['visit-closed'],
  ])
})

test('facts cannot be changed or deleted, not even by the server’s own role', async () => {
  await expect(
    world.deps.inFirm(firm.firmId, (scope) => scope.query(`update fact_step_done set step_key = 'x' where firm_id = $1`)),
  ).rejects.toThrow('permission denied')
  await expect(peek(world.database, 'delete from fact_step_done')).rejects.toThrow('append-only')
  await expect(peek(world.database, `update fact_receipt set kind = 'x'`)).rejects.toThrow('append-only')
})

test('a month has its own partition, an old fact waits in the default one', async () => {
  const at = place()
  await technician.ask('POST', '/api/facts', batch(begun(at), ticked(at, 'old', { at: '2019-05-01T10:00:00.000Z' }), ticked(at, 'new')))
  const rows = await peek<{ step_key: string; part: string }>(
    world.database,
    'select step_key, tableoid::regclass::text as part from fact_step_done where visit_id = $1 order by step_key',
    [at.visitId],
  )
  const month = new Date().toISOString().slice(0, 7).replace('-', '')
  expect(rows).toEqual([
    { step_key: 'new', part: `fact_step_done_${month}` },
    { step_key: 'old', part: 'fact_step_done_rest' },
  ])
})

test('a newer app is told that the server has to catch up', async () => {
  const answer = await technician.ask('POST', '/api/facts', { ...batch(begun(place())), protocol: 99 })
  expect(answer.status).toBe(409)
  expect(answer.body.error).toMatchObject({ code: 'SERVER_TOO_OLD', retryable: true })
})

describe('what the database cannot hold is refused by name and holds up nothing', () => {
  const control = `scanned${String.fromCharCode(0)}code`
  test('control characters and halves of characters in text, years that no calendar of work has', async () => {
    const at = place()
    const bad: Fact[] = [
      fitted(at, firm.stageIds[0], { partNumber: control } as Partial<Fact>),
      ended(at, { note: control } as Partial<Fact>),
      ended(at, { note: 'half \ud800 of one' } as Partial<Fact>),
      ticked(at, 'k', { at: '9999-12-31T23:59:59.000Z' }),
      ticked(at, 'k', { at: '0000-01-01T00:00:00.000Z' }),
    ]
    const good = ticked(at, 'after them')
    const answer = await technician.ask('POST', '/api/facts', batch(begun(at), ...bad, good))
    expect(answer.status).toBe(200)
    expect(statuses(answer.body)).toEqual(['accepted', ...bad.map(() => 'refused: bad-form'), 'accepted'])
    expect(answer.body.results[1].problems).toMatchObject([{ path: 'partNumber', message: expect.stringContaining('control characters') }])
    const lines = ended(at, { note: 'two\nlines, and a\ttab' } as Partial<Fact>)
    expect(statuses((await technician.ask('POST', '/api/facts', batch(lines))).body)).toEqual(['accepted'])
  })
  test('a fact that fails in the database is refused alone; those before and behind it are stored', async () => {
    const at = place()
    const [first, broken, last] = [ticked(at, 'first'), ticked(at, 'a trigger refuses this one'), ticked(at, 'last')]
    await peek(
      world.database,
      `create function refuse_one() returns trigger language plpgsql as $$ begin
         if new.step_key like 'a trigger refuses%' then raise exception 'no' using errcode = 'XX000'; end if; return new; end $$`,
    )
    await peek(world.database, 'create trigger refuse_one before insert on fact_step_done for each row execute function refuse_one()')
    try {
      const answer = await technician.ask('POST', '/api/facts', batch(begun(at), first, broken, last))
      expect([answer.status, statuses(answer.body)]).toEqual([200, ['accepted', 'accepted', 'refused: not-stored', 'accepted']])
    } finally {
      await peek(world.database, 'drop trigger refuse_one on fact_step_done')
    }
    // Once the reason is gone the same fact is taken: nothing of it was kept.
    expect(statuses((await technician.ask('POST', '/api/facts', batch(broken))).body)).toEqual(['accepted'])
  })
  test('a server that is too busy refuses no fact: the whole batch comes again', async () => {
    const busy = async (): Promise<never> => {
      throw new TooManyWaiting('too many wait for a connection')
    }
    const app = createApp({ ...world.deps, inFirm: busy, askFirm: busy }, { ready: async () => true, signInHints: [] })
    const at = place()
    for (const facts of [batch(begun(at), ticked(at, 'one')), batch(measured(at, 41.2))]) {
      const answer = await asker(app, technician.cookie)('POST', '/api/facts', facts)
      expect([answer.status, answer.body.error.code, answer.headers.get('retry-after')]).toEqual([503, 'BUSY', '1'])
    }
  })
  test('elsewhere it is bad input, never a fault of the server', async () => {
    const owner = await world.signIn(firm.email('owner'))
    const { site } = (await owner.ask('GET', `/api/sites/${firm.siteId}`)).body
    const { id, ...fields } = site
    expect((await owner.ask('PUT', `/api/sites/${id}`, { ...fields, access: control })).status).toBe(400)
    expect((await owner.ask('GET', `/api/due?text=${encodeURIComponent(control)}`)).status).toBe(400)
  })
})

describe('ticks in a row, stored together', () => {
  const ticksOf = (at: ReturnType<typeof place>, count: number): Fact[] =>
    Array.from({ length: count }, (_, index) => ticked(at, `step-${index}`))
  const stored = (visitId: string) => peek(world.database, 'select id from fact_step_done where visit_id = $1', [visitId])

  test('each has its own answer: one sent before, one twice, one under a used id, one at no site of ours', async () => {
    const at = place()
    const ticks = ticksOf(at, 8)
    await technician.ask('POST', '/api/facts', batch(begun(at), ticks[2]))
    const elsewhere = ticked({ ...at, siteId: uuidv7() }, 'nowhere')
    const sent = [...ticks.slice(0, 5), elsewhere, ticks[1], { ...ticks[3], stepKey: 'other' }, ...ticks.slice(5)]
    expect(statuses((await technician.ask('POST', '/api/facts', batch(...sent))).body)).toEqual([
      'accepted',
      'accepted',
      'already-had',
      'accepted',
      'accepted',
      'refused: unknown-site',
      'already-had',
      'refused: id-reused',
      'accepted',
      'accepted',
      'accepted',
    ])
    expect(await stored(at.visitId)).toHaveLength(8)
  })

  test('in another order from another device at the same moment, each is stored once', async () => {
    const at = place()
    await technician.ask('POST', '/api/facts', batch(begun(at)))
    const ticks = ticksOf(at, 30)
    const answers = await Promise.all(
      [ticks, [...ticks].reverse(), ticks].map((some) => technician.ask('POST', '/api/facts', batch(...some))),
    )
    const all = answers.flatMap(({ body }) => statuses(body))
    expect(all.filter((status) => status === 'accepted')).toHaveLength(30)
    expect(all.filter((status) => status === 'already-had')).toHaveLength(60)
    expect(await stored(at.visitId)).toHaveLength(30)
  })

  test('after the visit’s end, and by a clock that is off, they are stored and marked as one by one', async () => {
    const at = place()
    await technician.ask(
      'POST',
      '/api/facts',
      batch(begun(at), { ...ended(at), at: new Date(world.clock.now.getTime() - 60_000).toISOString() }),
    )
    const late = (await technician.ask('POST', '/api/facts', batch(...ticksOf(at, 3)))).body.results
    expect(late.map(({ flags }: { flags: string[] }) => flags)).toEqual([['visit-closed'], ['visit-closed'], ['visit-closed']])
    const ahead = batch(...ticksOf(at, 2))
    const off = { ...ahead, sentAt: new Date(world.clock.now.getTime() + 3_600_000).toISOString() }
    const skewed = (await technician.ask('POST', '/api/facts', off)).body.results
    expect(skewed.map(({ flags }: { flags: string[] }) => flags.includes('clock-skew'))).toEqual([true, true])
  })

  test('a beginning of another train, at a stop that is gone or at a system that hangs elsewhere is judged as one by one', async () => {
    const flagsOf = async (change: object, from = place()) => {
      const answer = await technician.ask('POST', '/api/facts', batch({ ...begun(from), ...change }, ...ticksOf(from, 2)))
      return [statuses(answer.body), answer.body.results[0].flags]
    }
    const taken = Array(3).fill('accepted')
    expect(await flagsOf({})).toEqual([taken, []])
    expect(await flagsOf({ trainVersion: 99 })).toEqual([taken, ['train-changed']])
    expect(await flagsOf({ stopId: uuidv7() })).toEqual([taken, ['stop-changed']])
    expect(await flagsOf({ systemId: uuidv7() })).toEqual([
      ['refused: unknown-reference', ...Array(2).fill('refused: depends-on-refused')],
      [],
    ])
  })

  test('what waits for a refused beginning is refused with it', async () => {
    const at = { ...place(), siteId: uuidv7() }
    const answer = await technician.ask('POST', '/api/facts', batch(begun(at), ...ticksOf(at, 3)))
    expect(statuses(answer.body).slice(1)).toEqual(Array(3).fill('refused: depends-on-refused'))
  })
})
