import type { DataSource } from 'typeorm'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../testing/database'
import { batch, begun } from '../testing/facts'
import { addFirm, openWorld, type World } from '../testing/world'
import { dataSource, MIGRATIONS } from './data-source'
import { Steps0011 } from './migrations/0011-steps'

let world: World
afterAll(() => world.close())

const STAGE = '1b6815af-4a34-5722-a586-81e6589bcf4b'
/** What stood in the tables before steps had columns of their own: key and answer, and what they must become. */
const BEFORE: [key: string, answer: string | null, after: object][] = [
  ['isolate/close:valve', null, { verb: 'close', stage_id: null, outcome: 'done', choice: null, note: null }],
  [`change/ask:${STAGE}`, 'yes', { verb: 'ask', stage_id: STAGE, outcome: 'answered', choice: 'yes', note: null }],
  [
    `soak/soak:${STAGE}`,
    'left out: nobody in the room',
    { verb: 'soak', stage_id: STAGE, outcome: 'left-out', choice: null, note: 'nobody in the room' },
  ],
  [
    `flush/flush:${STAGE}+${STAGE}>tap`,
    'stopped with 3:12 left',
    { verb: 'flush', stage_id: STAGE, outcome: 'early', choice: null, note: '3:12' },
  ],
  ['spread/out-tap', 'left: capped', { verb: null, stage_id: null, outcome: 'left-out', choice: null, note: 'capped' }],
  ['ready/acid', 'carried away', { verb: null, stage_id: null, outcome: 'answered', choice: 'carried-away', note: null }],
  ['contact/end', 'They had to have water', { verb: null, stage_id: null, outcome: 'done', choice: null, note: 'They had to have water' }],
]

/** Back to before the migration under test, however many came after it. */
async function undo(owner: DataSource): Promise<void> {
  const later = MIGRATIONS.slice(MIGRATIONS.indexOf(Steps0011))
  for (const _ of later) await owner.undoLastMigration({ transaction: 'each' })
}

test('what was stored as one text is read into columns, says the same, and goes back unchanged', async () => {
  world = await openWorld('empty')
  const firm = await addFirm(world, 'mill')
  const technician = await world.signIn(firm.email('technician'))
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  await technician.ask('POST', '/api/facts', batch(begun(at)))
  const owner = dataSource({ url: world.database.ownerUrl, poolSize: 1 })
  await owner.initialize()
  try {
    await undo(owner)
    const shared = `select $1::uuid, gen_random_uuid(), timestamptz '2026-11-25 09:00Z', timestamptz '2026-11-25 09:00Z', $2::uuid, gen_random_uuid(), 1, $3::uuid, $4::uuid, null::uuid, false, '{}'::text[]`
    const columns = 'firm_id, id, at, arrived_at, person_id, device_id, seq, site_id, visit_id, supersedes, voided, flags'
    const place = [firm.firmId, firm.technicianId, at.siteId, at.visitId]
    for (const [key, answer] of BEFORE)
      await peek(world.database, `insert into fact_step_done (${columns}, step_key, answer) ${shared}, $5::text, $6::text`, [
        ...place,
        key,
        answer,
      ])
    for (const answer of ['will-not-close', `still-leaking:${STAGE}`])
      await peek(world.database, `insert into fact_step_surprise (${columns}, step_key, answer) ${shared}, 'k', $5::text`, [
        ...place,
        answer,
      ])
    const stored = () =>
      peek<{ step_key: string; answer: string | null }>(world.database, 'select step_key, answer from fact_step_done order by step_key')
    const was = await stored()
    await owner.runMigrations({ transaction: 'each' })
    const rows = await peek<{ step_key: string }>(
      world.database,
      'select step_key, verb, stage_id, outcome, choice, note from fact_step_done',
    )
    expect(new Map(rows.map(({ step_key, ...row }) => [step_key, row]))).toEqual(new Map(BEFORE.map(([key, , after]) => [key, after])))
    expect(await peek(world.database, 'select surprise, stage_id from fact_step_surprise order by surprise')).toEqual([
      { surprise: 'still-leaking', stage_id: STAGE },
      { surprise: 'will-not-close', stage_id: null },
    ])
    // The locks that were opened for it are shut again.
    await expect(peek(world.database, `update fact_step_done set note = 'x'`)).rejects.toThrow('append-only')
    await undo(owner)
    expect(await stored()).toEqual(was)
    await owner.runMigrations({ transaction: 'each' })
  } finally {
    await owner.destroy()
  }
})

test('a client of the first protocol goes on being understood, and what it sends twice is one fact', async () => {
  const firm = await addFirm(world, 'second')
  const technician = await world.signIn(firm.email('technician'))
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  const tick = {
    id: uuidv7(),
    at: new Date().toISOString(),
    seq: 7,
    siteId: at.siteId,
    visitId: at.visitId,
    supersedes: null,
    voided: false,
    kind: 'step-done',
    stepKey: `change/ask:${firm.stageIds[0]}`,
    answer: 'no',
  }
  const send = async (protocol: number, fact: object) =>
    (await technician.ask('POST', '/api/facts', { ...batch(begun(at), fact), protocol })).body.results.at(-1)
  expect(await send(1, tick)).toMatchObject({ status: 'accepted' })
  const [row] = await peek(world.database, 'select verb, stage_id, outcome, choice from fact_step_done where id = $1', [tick.id])
  expect(row).toEqual({ verb: 'ask', stage_id: firm.stageIds[0], outcome: 'answered', choice: 'no' })
  // The answer was lost, the program was updated, and it is sent again in today's words.
  const { answer: _, ...rest } = tick
  const today = { ...rest, verb: 'ask', stageId: firm.stageIds[0], outcome: 'answered', choice: 'no', note: null }
  expect([await send(1, tick), await send(2, today)]).toMatchObject([{ status: 'already-had' }, { status: 'already-had' }])
  expect(await send(2, { ...today, choice: 'yes' })).toMatchObject({ status: 'refused', reason: 'id-reused' })
  expect(await send(2, tick)).toMatchObject({ status: 'refused', reason: 'bad-form' })
})
