import type { Fact, OwnFact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, begun } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let [technician, viewer]: Person[] = []

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'mill')
  technician = await world.signIn(firm.email('technician'))
  viewer = await world.signIn(firm.email('viewer'))
})
afterAll(() => world.close())

const place = () => ({ siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() })
/** A fact beside a visit: what all facts carry, as `begun` has it. */
function said(own: OwnFact): Fact {
  const { id, at, seq, siteId, visitId, supersedes, voided } = begun(place())
  return { id, at, seq, siteId, visitId, supersedes, voided, ...own } as Fact
}
const send = async (who: Person | undefined, ...facts: Fact[]): Promise<string[]> =>
  (await who?.ask('POST', '/api/facts', batch(...facts)))?.body.results.map(({ status, reason }: { status: string; reason?: string }) =>
    reason ? `${status}: ${reason}` : status,
  )
const page = async () => (await technician?.ask('GET', `/api/sites/${firm.siteId}`))?.body

test('a technician mends how to get in and the telephone at the door; who did it stands beside it', async () => {
  expect(await send(technician, said({ kind: 'site-mended', field: 'phone', value: 'Skellan 4711' }))).toEqual(['accepted'])
  expect(await send(technician, said({ kind: 'site-mended', field: 'access', value: 'Key under the third pot.' }))).toEqual(['accepted'])
  const { site, mended } = await page()
  expect([site.phone, site.access]).toEqual(['Skellan 4711', 'Key under the third pot.'])
  expect(mended.map(({ field, byName }: { field: string; byName: string }) => [field, byName])).toEqual([
    ['access', expect.any(String)],
    ['phone', expect.any(String)],
  ])
})

test('who only reads mends nothing', async () => {
  expect(await send(viewer, said({ kind: 'site-mended', field: 'phone', value: '0' }))).toEqual(['refused: no-right'])
  const train = (await technician?.ask('GET', `/api/systems/${firm.systemId}/train`))?.body
  const edit = { version: train.version, name: train.name, train: train.train }
  expect((await viewer?.ask('PUT', `/api/systems/${firm.systemId}/train`, edit))?.status).toBe(403)
  expect((await technician?.ask('PUT', `/api/systems/${firm.systemId}/train`, edit))?.status).toBe(200)
  const [drawn] = await peek<{ drawn_by: string | null }>(
    world.database,
    'select drawn_by from train_version where system_id = $1 order by version desc limit 1',
    [firm.systemId],
  )
  expect(drawn?.drawn_by).not.toBeNull()
})

test('a fault noted at a visit is work to offer until somebody settles it; one nobody noted cannot be settled', async () => {
  const faultId = uuidv7()
  const fault = {
    kind: 'fault-noted',
    faultId,
    systemId: firm.systemId,
    stageId: firm.stageIds[0] ?? null,
    what: 'weeping-valve',
    text: 'drips',
  }
  expect(await send(technician, said(fault as OwnFact))).toEqual(['accepted'])
  expect((await page()).faults).toEqual([
    expect.objectContaining({ id: faultId, what: 'weeping-valve', text: 'drips', settled: null, photos: [] }),
  ])
  expect(await send(technician, said({ kind: 'fault-settled', faultId: uuidv7(), how: 'done', note: '' }))).toEqual([
    'refused: unknown-reference',
  ])
  expect(await send(technician, said({ kind: 'fault-settled', faultId, how: 'done', note: 'new washer' }))).toEqual(['accepted'])
  expect((await page()).faults[0].settled).toMatchObject({ how: 'done', note: 'new washer' })
})
