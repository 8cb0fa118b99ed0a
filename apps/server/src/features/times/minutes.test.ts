import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { batch, begun, ended, ticked } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let technician: Person

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'mill')
  technician = await world.signIn(firm.email('technician'))
})
afterAll(() => world.close())

const tasks = () => [{ stage: firm.stageIds[0] as string, action: 'change' as const }]
/** A visit of one stage, from nine o'clock on, with a clock that ran five minutes of it. */
async function visited(minutes: number): Promise<void> {
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  const begins = Date.parse('2026-11-20T09:00:00.000Z')
  const timer = { ...ticked(at, 'flush/flush:x'), kind: 'timer-started', seconds: 300 } as unknown as Fact
  const { body } = await technician.ask(
    'POST',
    '/api/facts',
    batch(
      begun(at, { at: new Date(begins).toISOString(), tasks: tasks() } as Partial<Fact>),
      timer,
      ended(at, { at: new Date(begins + minutes * 60_000).toISOString() }),
    ),
  )
  expect(body.results.map(({ status }: { status: string }) => status)).toEqual(['accepted', 'accepted', 'accepted'])
}
async function planned() {
  const id = uuidv7()
  const json = { id, systemId: firm.systemId, tasks: tasks().map(({ stage, action }) => ({ stageId: stage, action })) }
  expect((await technician.ask('POST', '/api/stops', json)).status).toBeLessThan(300)
  return (await technician.ask('GET', `/api/stops/${id}`)).body.stop
}

test('minutes are the sheet’s until the firm has visits of its own; five of them speak alone, clocks apart', async () => {
  const { time, workMin } = await planned()
  expect(time).toMatchObject({ learnedFrom: 0, handsOnMin: time.sheetMin, own: null })
  // What the day line shows is getting in, hands and clocks: eight minutes are usual for the first.
  expect(workMin).toBe(Math.round(8 + time.handsOnMin + time.waitingMin))
  // 45 minutes from arrival to departure, five of them a clock's: 40 of hands, a fifth of the way there.
  await visited(45)
  const once = await planned()
  expect(once.time.learnedFrom).toBe(1)
  expect(once.time.handsOnMin).toBeCloseTo(time.sheetMin + (40 - time.sheetMin) / 5, 6)
  for (const minutes of [43, 47, 45, 240]) await visited(minutes)
  const five = await planned()
  // A visit of four hours among them changes nothing: the middle one counts.
  expect(five.time).toMatchObject({ learnedFrom: 5, handsOnMin: 40, own: { handsOnMin: 40, from: 5 } })
  expect(five.workMin).toBe(Math.round(8 + 40 + time.waitingMin))
})
