import { inputOfSet } from '@evenround/contract/round-set'
import type { RoundPage, RoundVisitDto } from '@evenround/contract/rounds'
import { planRound } from '@evenround/core/round'
import { FAMILIES, familyTrain } from '@evenround/core/train'
import { addDays, daysBetween } from '@evenround/core/units'
import { v7 as uuidv7 } from 'uuid'
import { YearPlanRow } from '../../db/entities/year'
import { DEMO_FIRM_ID } from '../../demo/load'
import { batch, begun, fitted } from '../../testing/facts'
import { PLAIN_SITE } from '../../testing/plain-site'
import { freshRoundOf, good } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

/** A new customer at a village of the demo, with a set of two stages of which nobody knows what is in it. */
async function newCustomer(name: string): Promise<{ siteId: string; systemId: string; stageIds: string[] }> {
  const [siteId, systemId] = [uuidv7(), uuidv7()]
  const stageIds = [uuidv7(), uuidv7()]
  const train = familyTrain(FAMILIES['under-sink-2'], stageIds)
  await good(isla.ask('POST', '/api/sites', { ...PLAIN_SITE, id: siteId, name, systems: [{ id: systemId, name: 'Kitchen', train }] }))
  return { siteId, systemId, stageIds }
}
const firstOf = ({ set }: RoundPage, systemId: string): RoundVisitDto | undefined =>
  set.visits.find(({ kind, stops }) => kind === 'first' && stops.some((stop) => stop.systemId === systemId))

test('a new customer of whose parts nobody knows anything is seen within six weeks, once in the year, and in the quarter about its week', async () => {
  const { siteId, systemId } = await newCustomer('Dunlin cottage')
  const page = await freshRoundOf(isla)
  const visit = firstOf(page, systemId)
  if (!visit) throw new Error('it is planned')
  expect(visit).toMatchObject({ id: systemId, siteId, kind: 'first', serviceMin: 45, loadKg: 2 })
  expect(visit.stops[0]).toMatchObject({ stopId: systemId, tasks: [] })
  const [from, to] = visit.windowDays
  expect(from).toBe(0)
  const lastDay = addDays(page.set.today, 42)
  expect(to).toBe(page.set.days.filter((day) => day <= lastDay).length - 1)

  const { offered } = await good(isla.ask('POST', '/api/year/plans', { id: uuidv7(), kind: 'even' }))
  const { known, visits } = (await world.deps.inFirm(DEMO_FIRM_ID, (scope) =>
    scope.findOne(YearPlanRow, { id: offered.id }),
  )) as YearPlanRow
  const weeks = visits.flatMap(({ week, chains }) => (chains.includes(systemId) ? [week] : []))
  expect(weeks).toHaveLength(1)
  expect(weeks[0]).toBeLessThanOrEqual(6)
  expect(known.about[systemId]).toEqual({ siteName: 'Dunlin cottage', media: null, priceMinor: 0 })

  await good(isla.ask('POST', `/api/year/plans/${offered.id}/apply`))
  const monday = addDays(known.from, 7 * (weeks[0] as number))
  const byYear = firstOf(await freshRoundOf(isla), systemId)
  const [first, last] = (byYear?.windowDays ?? []).map((index) => daysBetween(monday, page.set.days[index] as string)) as [number, number]
  expect(first).toBeGreaterThanOrEqual(-7)
  expect(last).toBeLessThanOrEqual(13)
})

test('somebody who comes anyway, a part that is known, or a visit that was begun: then there is no first visit to plan', async () => {
  const [asked, known, visited] = [await newCustomer('Dunlin barn'), await newCustomer('Dunlin shed'), await newCustomer('Dunlin mill')]
  const before = await freshRoundOf(isla)
  for (const { systemId } of [asked, known, visited]) expect(firstOf(before, systemId)).toBeDefined()
  const extra = {
    id: uuidv7(),
    systemId: asked.systemId,
    workMin: 60,
    fromDay: before.set.days[0],
    toDay: before.set.days[9],
    why: 'new',
    tasks: [],
  }
  await good(isla.ask('POST', '/api/round/extras', extra))
  const at = ({ siteId, systemId }: typeof asked) => ({ siteId, systemId, visitId: uuidv7() })
  await good(isla.ask('POST', '/api/facts', batch(fitted(at(known), known.stageIds[0] as string))))
  await good(isla.ask('POST', '/api/facts', batch(begun(at(visited)))))
  const after = await freshRoundOf(isla)
  for (const { systemId } of [asked, known, visited]) expect(firstOf(after, systemId)).toBeUndefined()
  expect(after.set.visits.find(({ id }) => id === extra.id)).toMatchObject({ kind: 'extra', serviceMin: 60 })
})

test('published it is a stop of its own, under the same id when it is planned again', async () => {
  const { systemId } = await newCustomer('Dunlin loft')
  const page = await freshRoundOf(isla)
  const { days } = planRound(inputOfSet(page.set), { iterations: 60, from: page.draft.plan })
  const state = await good(isla.ask('PUT', '/api/round/draft', { version: page.draft.version, setId: page.set.id, days }))
  await good(isla.ask('POST', '/api/round/publications', { version: state.version }))
  const [stop] = await stopsOf(systemId)
  expect(stop).toMatchObject({ id: systemId, system_id: systemId })
  const again = await freshRoundOf(isla)
  expect(firstOf(again, systemId)).toMatchObject({ id: systemId, promised: false })
  expect(again.set.days[firstOf(again, systemId)?.promisedDay as number]).toBe(stop?.day)
})

const stopsOf = (systemId: string) =>
  world.deps.inFirm(DEMO_FIRM_ID, (scope) =>
    scope.query<{ id: string; system_id: string; day: string }>(
      'select id, system_id, day from stop where firm_id = $1 and system_id = $2',
      [systemId],
    ),
  )
