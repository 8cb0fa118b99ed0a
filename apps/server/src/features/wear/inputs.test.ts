import type { DueRow, StagePageDto } from '@evenround/contract/due'
import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, begun, fitted } from '../../testing/facts'
import { openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

const DAY = 86_400_000
const stagePage = async (id: string): Promise<StagePageDto> => (await isla.ask('GET', `/api/stages/${id}`)).body

interface Place {
  siteId: string
  systemId: string
  visitId: string
  stages: string[]
}
/** A set of the demo with its stages in flow, everything in it fitted new `daysAgo`. */
async function fresh(site: string, daysAgo: number): Promise<Place> {
  const [row] = await peek<{ site_id: string; id: string; train: { nodes: { kind: string; id: string; position?: number }[] } }>(
    world.database,
    `select y.site_id, y.id, v.train from system y join site on site.id = y.site_id join train_version v on v.system_id = y.id where site.name = $1 order by y.name limit 1`,
    [site],
  )
  if (!row) throw new Error(`no ${site}`)
  const stages = row.train.nodes.filter(({ kind }) => kind === 'stage').sort((a, b) => (a.position ?? 0) - (b.position ?? 0))
  const place = { siteId: row.site_id, systemId: row.id, visitId: uuidv7(), stages: stages.map(({ id }) => id) }
  const at = new Date(world.clock.now.getTime() - daysAgo * DAY).toISOString()
  await send(begun(place, { at }), ...place.stages.map((id, index) => fitted(place, id, { at, position: index + 1 } as Partial<Fact>)))
  return place
}
const send = async (...facts: Fact[]): Promise<void> => {
  const { body } = await isla.ask('POST', '/api/facts', batch(...facts))
  expect(body.results.filter(({ status }: { status: string }) => status === 'refused')).toEqual([])
}
const removed = (place: Place, stageId: string, daysAgo: number, dirtPast: boolean | null, visitId = place.visitId): Fact => {
  const {
    stopId: _,
    systemId: __,
    trainVersion: ___,
    engineVersion: ____,
    tasks: _____,
    ...base
  } = begun({ ...place, visitId }) as Fact & Record<string, unknown>
  return {
    ...base,
    kind: 'part-removed',
    at: new Date(world.clock.now.getTime() - daysAgo * DAY).toISOString(),
    stageId,
    found: 'heavy',
    dirtPast,
  } as Fact
}

test('dirt past a stage halves the rest of the next one, and of no other', async () => {
  const place = await fresh('Tern House', 100)
  const [first, second, third] = place.stages as [string, string, string]
  const before = await Promise.all([second, third].map(stagePage))
  const visitId = uuidv7()
  const at = new Date(world.clock.now.getTime() - 10 * DAY).toISOString()
  await send(
    begun({ ...place, visitId }, { at }),
    removed(place, first, 10, true, visitId),
    fitted({ ...place, visitId }, first, { at: new Date(Date.parse(at) + 60_000).toISOString() } as Partial<Fact>),
  )
  const after = await Promise.all([second, third].map(stagePage))
  expect(after[0]?.carriedOver).toHaveLength(1)
  expect(after[1]?.carriedOver).toEqual([])
  expect((after[0]?.forecast?.p50 ?? '') < (before[0]?.forecast?.p50 ?? '')).toBe(true)
  expect(after[1]?.forecast?.p50).toBe(before[1]?.forecast?.p50)
})

test('an element that came out and went back was washed: its fitting stays', async () => {
  const place = await fresh('Weir cottage', 150)
  const [first] = place.stages as [string]
  const visitId = uuidv7()
  await send(
    begun({ ...place, visitId }, { at: new Date(world.clock.now.getTime() - DAY / 2).toISOString() }),
    removed(place, first, 0.4, false, visitId),
  )
  const page = await stagePage(first)
  expect(page.washedOn).toHaveLength(1)
  expect(page.history[0]).toMatchObject({ removedOn: null })
  expect(page.part?.fittedOn).toBe(page.history[0]?.fittedOn)
})

test('a part of unknown age has a wider window and says so in the list', async () => {
  const place = await fresh('Fulmar view', 0)
  const [first] = place.stages as [string]
  const known = await stagePage(first)
  const [fact] = await peek<{ id: string }>(world.database, 'select id from fact_part_fitted where stage_id = $1 and visit_id = $2', [
    first,
    place.visitId,
  ])
  await send(fitted(place, first, { supersedes: fact?.id ?? null, dateKnown: false } as Partial<Fact>))
  const page = await stagePage(first)
  expect(page.part?.dateKnown).toBe(false)
  expect((page.forecast?.p50 ?? '') < (known.forecast?.p50 ?? '')).toBe(true)
  const rows: DueRow[] = (await isla.ask('GET', '/api/due?text=fulmar&limit=100')).body.rows
  expect(rows.find(({ stageId }) => stageId === first)?.dateKnown).toBe(false)
})

test('a correction of a fitting counts and the first one does not', async () => {
  const place = await fresh('Peat road 7', 30)
  const [first] = place.stages as [string]
  const [fact] = await peek<{ id: string }>(world.database, 'select id from fact_part_fitted where stage_id = $1 and visit_id = $2', [
    first,
    place.visitId,
  ])
  const at = new Date(world.clock.now.getTime() - 60 * DAY).toISOString()
  const { history } = await stagePage(first)
  await send(fitted(place, first, { supersedes: fact?.id ?? null, at, partNumber: 'BRK-SED-20' } as Partial<Fact>))
  const page = await stagePage(first)
  expect(page.part?.partNumber).toBe('BRK-SED-20')
  expect(page.history).toHaveLength(history.length)
})
