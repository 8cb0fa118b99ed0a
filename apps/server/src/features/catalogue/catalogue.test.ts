import type { DueRow } from '@evenround/contract/due'
import type { MediumProfileDto, PartDto } from '@evenround/contract/shelf'
import { addDays } from '@evenround/core/units'
import { v7 as uuidv7 } from 'uuid'
import { batch, begun, fitted, gauged } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let isla: Person
let tam: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(() => world.close())

const day = (from: number): string => addDays(new Date().toISOString().slice(0, 10), from)
const shelf = async (): Promise<{ parts: PartDto[]; media: MediumProfileDto[] }> => (await isla.ask('GET', '/api/shelf')).body
const medium = async (name: string): Promise<MediumProfileDto> => {
  const found = (await shelf()).media.find(({ media }) => media === name)
  if (!found) throw new Error(`no medium ${name}`)
  return found
}
const dueOf = async (media: string): Promise<DueRow[]> => (await isla.ask('GET', `/api/due?media=${media}&limit=1000`)).body.rows
const put = ({ media, ...profile }: MediumProfileDto, change: object, who = isla) =>
  who.ask('PUT', `/api/media/${media}`, { ...profile, ...change })

test('a limit of the firm’s own moves what is measured on that medium and nothing else; put back it stands as before', async () => {
  const ours = await medium('sediment')
  expect(ours).toMatchObject({ version: 0, lifeMonths: 6, limits: { overCleanKpa: 70, flowShare: 0.6 } })
  const [row] = (await dueOf('sediment')).filter(({ fittedOn }) => fittedOn < day(-40))
  if (!row) throw new Error('no sediment stage in service for long enough')
  const { systems } = (await isla.ask('GET', `/api/sites/${row.siteId}`)).body
  const system = systems.find(({ stages }: { stages: { id: string }[] }) => stages.some(({ id }) => id === row.stageId))
  const place = { siteId: row.siteId, systemId: system.id, visitId: uuidv7() }
  const at = (before: number) => ({ at: `${day(-before)}T10:00:00.000Z` })
  // Clean it dropped 8 kPa, now 20: 12 over clean.
  const drops = [
    gauged(place, row.stageId, { inKpa: 300, outKpa: 292 }, at(35)),
    gauged(place, row.stageId, { inKpa: 300, outKpa: 280 }, at(1)),
  ]
  await isla.ask('POST', '/api/facts', batch(begun(place), ...drops))
  const medianOf = async (stageId: string): Promise<string> => (await dueOf('sediment')).find((one) => one.stageId === stageId)?.p50 ?? ''
  const usual = await medianOf(row.stageId)
  const carbon = await dueOf('carbon-block')
  const edited = await put(ours, { limits: { overCleanKpa: 14, flowShare: 0.6 } })
  expect(edited.body).toMatchObject({ version: 1, limits: { overCleanKpa: 14, flowShare: 0.6 } })
  expect((await medianOf(row.stageId)) < usual).toBe(true)
  expect(await dueOf('carbon-block')).toEqual(carbon)
  await put(await medium('sediment'), { limits: ours.limits })
  expect(await medianOf(row.stageId)).toBe(usual)
})

test('a part that came with no figure is rated as its medium is in this firm', async () => {
  const firm = await addFirm(world, 'kilnhouse')
  const owner = await world.signIn(firm.email('owner'))
  const list = 'Customer,System,Pos,Part,Kind,Fitted\nKiln,Sink,1,KH-1,sediment,2026-10-01\n'
  const columns = ['site', 'system', 'position', 'partNumber', 'medium', 'fittedOn']
  await owner.ask('POST', '/api/intakes', { id: uuidv7(), name: 'l', text: list, columns, order: 'day-first' })
  const sites = (await owner.ask('GET', '/api/sites')).body.sites as { id: string; name: string }[]
  const siteId = sites.find(({ name }) => name === 'Kiln')?.id ?? ''
  const { systems } = (await owner.ask('GET', `/api/sites/${siteId}`)).body
  const none = { days: null, litres: null, milliequivalents: null, hours: null }
  const place = { siteId, systemId: systems[0].id, visitId: uuidv7() }
  await owner.ask('POST', '/api/facts', batch(fitted(place, systems[0].stages[0].id, { rated: none } as never)))
  const median = async (): Promise<string> => (await owner.ask('GET', '/api/due')).body.rows[0].p50
  const usual = await median()
  const profile = (await owner.ask('GET', '/api/shelf')).body.media.find(({ media }: MediumProfileDto) => media === 'sediment')
  expect((await put(profile, { lifeMonths: 3 }, owner)).status).toBe(200)
  expect((await median()) < usual).toBe(true)
})

test('figures of a medium: odd limits, old versions and people without the right are refused', async () => {
  const carbon = await medium('carbon-block')
  expect((await put(carbon, { limits: { overCleanKpa: 50 } })).body.error.fields).toEqual([
    { path: 'limits.overCleanKpa', message: 'expected no such limit: it is not measured on carbon' },
  ])
  expect((await put(carbon, { lifeMonths: -1 })).body.error.fields[0].path).toBe('lifeMonths')
  expect((await put(carbon, {}, tam)).status).toBe(403)
  expect((await put(carbon, { lifeMonths: 10 })).status).toBe(200)
  const stale = await put(carbon, { lifeMonths: 9 })
  expect(stale.body.error).toMatchObject({ code: 'STALE_VERSION', current: { lifeMonths: 10, version: 1 } })
})

test('equivalents hold both ways, only between parts of one medium and housing', async () => {
  const rated = { days: 300, litres: 2000, milliequivalents: null, hours: null }
  const fresh = { id: uuidv7(), partNumber: 'LT-CB-10X', maker: 'Loom & Tarn', name: 'Carbon block, small, plain', priceMinor: 990 }
  await isla.ask('POST', '/api/parts', { ...fresh, media: 'carbon-block', housing: 'sump-small', rated })
  const { parts } = await shelf()
  const of = (number: string): PartDto => parts.find(({ partNumber }) => partNumber === number) as PartDto
  const edit = ({ id, media: _, housing: __, ...fields }: PartDto, equivalents: string[]) =>
    isla.ask('PUT', `/api/parts/${id}`, { ...fields, fittedToo: false, equivalents })
  expect((await edit(of('BRK-CB-10'), [fresh.id])).body.part.equivalents).toEqual([fresh.id])
  const other = (await shelf()).parts.find(({ id }) => id === fresh.id)
  expect(other?.equivalents).toEqual([of('BRK-CB-10').id])
  expect((await edit(of('BRK-SED-10'), [fresh.id])).body.error.fields[0].path).toBe('equivalents')
  // The run sheet of a stop that fits the one offers the other, rated by its own figures.
  const { stops } = (await tam.ask('GET', '/api/today')).body
  const stages = stops.flatMap(
    ({ system }: { system: { stages: { nextPart: { partNumber: string; equivalents: unknown[] } | null }[] } }) => system.stages,
  )
  const offered = stages.find(({ nextPart }: { nextPart: { partNumber: string } | null }) => nextPart?.partNumber === 'BRK-CB-10')
  expect(offered.nextPart.equivalents).toEqual([{ id: fresh.id, partNumber: 'LT-CB-10X', rated }])
})

test('a parts list: looked through, brought in, bar codes once; who may not edit the catalogue brings none in', async () => {
  const before = (await shelf()).parts
  const [known] = before
  if (!known) throw new Error('the demo has parts')
  const text = [
    'Part;Kind;Price;Bar code;Supplier',
    `${known.partNumber};;12,50;5601234500017;Weir Wholesale`,
    'OB-NEW-1;carbon block;59;5601234500024;Weir Wholesale',
    'OB-NEW-2;gravel;5;;',
  ].join('\n')
  expect((await tam.ask('POST', '/api/parts/list', { text })).status).toBe(403)
  const preview = (await isla.ask('POST', '/api/parts/list/check', { text })).body
  expect(preview).toMatchObject({ lines: 3, good: 2, added: 1, changed: 1, same: 0 })
  expect(preview.problems).toMatchObject([{ line: 4, problems: [{ field: 'medium', heading: 'Kind' }] }])
  expect(preview.parts[0].text).toBe(`${known.partNumber}: bar code, supplier, price (12.50 EUR)`)
  expect((await shelf()).parts).toEqual(before)
  expect((await isla.ask('POST', '/api/parts/list', { text })).body).toEqual({ added: 1, changed: 1, left: 1 })
  const after = (await shelf()).parts
  expect(after.find(({ id }) => id === known.id)).toEqual({
    ...known,
    priceMinor: 1250,
    barcode: '5601234500017',
    supplier: 'Weir Wholesale',
    version: known.version + 1,
  })
  const added = after.find(({ partNumber }) => partNumber === 'OB-NEW-1')
  expect(added).toMatchObject({ media: 'carbon-block', priceMinor: 5900, supplier: 'Weir Wholesale', version: 1 })
  expect((await isla.ask('POST', '/api/parts/list', { text })).body).toEqual({ added: 0, changed: 0, left: 1 })
  const { equivalents: _, id: __, version: ___, ...twin } = added as PartDto
  const refused = await isla.ask('POST', '/api/parts', { ...twin, id: uuidv7(), partNumber: 'OB-NEW-3' })
  expect([refused.status, refused.body.error.fields]).toEqual([409, [{ path: 'barcode', message: 'that of another part' }]])
})
