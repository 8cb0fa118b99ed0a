import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { Site, System, TrainVersion } from '../../db/entities/master'
import { batch, begun, ended } from '../../testing/facts'
import { PLAIN_SITE } from '../../testing/plain-site'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let technician: Person
/** Three houses on one land, about eleven kilometres apart: estimated at 20 minutes each (land.test.ts). */
const houses: { siteId: string; systemId: string }[] = []

beforeAll(async () => {
  world = await openWorld('empty')
  world.clock.now = new Date('2026-06-20T20:00:00Z')
  firm = await addFirm(world, 'driven')
  technician = await world.signIn(firm.email('technician'))
  await world.deps.inFirm(firm.firmId, async (scope) => {
    const [usual] = await scope.find(TrainVersion, { systemId: firm.systemId })
    if (!usual) throw new Error('the firm has a system')
    const train = { ...usual.train, nodes: [], edges: [] }
    for (const lat of [50, 50.1, 50.2]) {
      const [siteId, systemId] = [uuidv7(), uuidv7()]
      houses.push({ siteId, systemId })
      await scope.insert(Site, {
        ...PLAIN_SITE,
        village: '',
        island: 'Moor',
        people: 2,
        version: 1,
        id: siteId,
        name: `House ${lat}`,
        lat,
        lon: 0,
      })
      await scope.insert(System, { id: systemId, siteId, name: 'Kitchen', trainVersion: 1 })
      await scope.insert(TrainVersion, { systemId, version: 1, train })
    }
  })
})
afterAll(() => world.close())

/** A day of visits of thirty minutes each, with so many minutes between one's end and the next one's begin. The firm's clock is UTC − 1, in summer UTC. */
async function day(date: string, from: string, stops: readonly number[], drives: readonly number[]): Promise<void> {
  let at = Date.parse(`${date}T${from}:00.000Z`)
  const facts: Fact[] = []
  stops.forEach((house, index) => {
    const where = { ...(houses[house] as (typeof houses)[number]), visitId: uuidv7() }
    facts.push(begun(where, { at: new Date(at).toISOString(), tasks: [] } as Partial<Fact>))
    at += 30 * 60_000
    facts.push(ended(where, { at: new Date(at).toISOString() }))
    at += (drives[index] ?? 0) * 60_000
  })
  const { body } = await technician.ask('POST', '/api/facts', {
    ...batch(...facts),
    sentAt: world.clock.now.toISOString(),
  })
  expect(body.results.every(({ status }: { status: string }) => status === 'accepted')).toBe(true)
}
const ways = async () => (await technician.ask('GET', '/api/times/ways')).body.pace

test('drives from door to door teach how long ways take; a lunch, a night and a second visit at one house teach nothing', async () => {
  expect(await ways()).toEqual({ drives: 0, fromMin: [], areas: [] })
  // Thirty minutes where twenty are estimated, all leaving between seven and nine; after the last of a day a night.
  for (let one = 1; one <= 4; one++) await day(`2026-06-0${one}`, '07:00', [0, 1, 2], [30, 30])
  expect((await ways()).drives).toBe(0)
  await day('2026-06-05', '07:00', [0, 1, 2, 2], [30, 30, 5])
  await day('2026-06-06', '07:00', [2, 0], [140])
  const learned = await ways()
  expect(learned.drives).toBe(10)
  const [area] = learned.areas
  expect(area.area).toBe('Moor')
  // All ten are half as long again: the firm 1.5^(10/18) = 1.253, the area 1.253^(8/18) · 1.5^(10/18) = 1.385, from seven 1.385^(8/18) ·
  // 1.5^(10/18) = 1.448; at other hours nobody drove.
  expect(learned.areas).toEqual([{ area: 'Moor', factors: [1.38, 1.45, 1.38, 1.38, 1.38, 1.38] }])
})
