import {
  changeNode,
  FAMILIES,
  type Family,
  familyTrain,
  insertAfter,
  moveStage,
  removeNode,
  stagesInFlow,
  type Train,
} from '@evenround/core/train'
import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, begun, fitted } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let owner: Person
let technician: Person

beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'mill')
  owner = await world.signIn(firm.email('owner'))
  technician = await world.signIn(firm.email('technician'))
})
afterAll(() => world.close())

interface Page {
  version: number
  name: string
  serialNo: string
  train: Train
}
const path = () => `/api/systems/${firm.systemId}/train`
const now = async (): Promise<Page> => (await owner.ask('GET', path())).body
const anotherSite = async (): Promise<string> => {
  const { body } = await owner.ask('GET', `/api/sites/${firm.siteId}`)
  const { id: _, version: __, ...site } = body.site
  const id = uuidv7()
  expect((await owner.ask('POST', '/api/sites', { ...site, id, name: 'Next door' })).status).toBe(200)
  return id
}
const save = (version: number, train: Train, who = owner) => who.ask('PUT', path(), { version, name: 'Kitchen', train })

test('an edit makes a version; the stages keep their ids, a new one becomes a lasting place', async () => {
  const before = await now()
  const added = uuidv7()
  const train = insertAfter(before.train, firm.stageIds[0], {
    id: added,
    kind: 'stage',
    media: 'carbon-block',
    housing: 'sump-small',
    position: 0,
  })
  const saved = await save(before.version, train)
  expect(saved.status).toBe(200)
  expect(saved.body).toMatchObject({ version: before.version + 1, train })
  const stages = await peek<{ id: string }>(world.database, 'select id from stage where system_id = $1', [firm.systemId])
  expect(stages.map(({ id }) => id)).toEqual(expect.arrayContaining([...firm.stageIds, added]))
  const site = await owner.ask('GET', `/api/sites/${firm.siteId}`)
  expect(site.body.systems[0].stages.map(({ id }: { id: string }) => id)).toContain(added)
})

test('an edit made on an older version is refused with what stands now; nothing is half-written', async () => {
  const { version, train } = await now()
  await save(version, moveStage(train, firm.stageIds[0], 1))
  const late = await save(version, train)
  expect(late).toMatchObject({ status: 409, body: { error: { code: 'STALE_VERSION', current: { version: version + 1 } } } })
  expect((await peek(world.database, 'select version from train_version where system_id = $1', [firm.systemId])).length).toBe(version + 1)
})

test('two edits at one moment: one is stored, the other told', async () => {
  const { version, train } = await now()
  const answers = await Promise.all([save(version, train), save(version, train)])
  expect(answers.map(({ status }) => status).sort()).toEqual([200, 409])
})

test('a visit goes on with the train it began with', async () => {
  const { version, train } = await now()
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  await technician.ask('POST', '/api/facts', batch(begun(at, { trainVersion: version } as Partial<Fact>)))
  await save(version, removeNode(train, firm.stageIds[1]))
  const page = await technician.ask('GET', `/api/visits/${at.visitId}`)
  expect(page.body.system).toMatchObject({ trainVersion: version, train })
})

test('what is plumbed no more is due no more, and its past stays', async () => {
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  await technician.ask('POST', '/api/facts', batch(begun(at), fitted(at, firm.stageIds[0])))
  const { version, train } = await now()
  expect((await save(version, removeNode(train, firm.stageIds[0]))).status).toBe(200)
  expect(await peek(world.database, 'select 1 from stage_forecast where stage_id = $1', [firm.stageIds[0]])).toEqual([])
  expect(await peek(world.database, 'select 1 from fact_part_fitted where stage_id = $1', [firm.stageIds[0]])).toHaveLength(1)
})

test('what does not hang together is refused at its place; a technician mends what is there, and adds nothing', async () => {
  const { version, train } = await now()
  const bad = async (changed: unknown): Promise<string[]> =>
    (await save(version, changed as Train)).body.error.fields.map(
      ({ path: at, message }: { path: string; message: string }) => `${at}: ${message}`,
    )
  const named = { ...train, nodes: train.nodes.map((node) => (node.kind === 'stage' ? { ...node, id: 'first' } : node)) }
  expect(await bad({ ...named, pipes: [] })).toEqual(
    expect.arrayContaining([expect.stringMatching(/^train\.nodes\[\d+\]\.id: expected the id of a stage to be a UUID/)]),
  )
  expect(await bad({ ...train, nodes: train.nodes.filter(({ kind }) => kind !== 'outlet'), pipes: [] })).toContain(
    'train.nodes: expected at least one outlet',
  )
  expect((await save(version, train, technician)).status).toBe(200)
  const added = { id: uuidv7(), siteId: firm.siteId, name: 'Bar', train: familyTrain(FAMILIES['under-sink-2'], [uuidv7(), uuidv7()]) }
  expect((await technician.ask('POST', '/api/systems', added)).status).toBe(403)
})

test('a new system with its first train; a stage of another system is refused', async () => {
  const family: Family = FAMILIES['reverse-osmosis-5']
  const ids = family.stages.map(() => uuidv7())
  const fresh = { id: uuidv7(), siteId: firm.siteId, name: 'Bar', train: familyTrain(family, ids) }
  expect(await owner.ask('POST', '/api/systems', fresh)).toMatchObject({ status: 200, body: { version: 1, name: 'Bar' } })
  // Its id is taken, whoever comes with it; the same system once more is the same.
  expect((await owner.ask('POST', '/api/systems', fresh)).body).toMatchObject({ version: 1, name: 'Bar' })
  expect((await owner.ask('POST', '/api/systems', { ...fresh, siteId: await anotherSite() })).status).toBe(409)
  const stolen = { ...fresh, id: uuidv7() }
  expect((await owner.ask('POST', '/api/systems', stolen)).body.error.fields[0].path).toMatch(/^train\.nodes\[\d+\]\.id$/)
  expect(await peek(world.database, 'select 1 from system where id = $1', [stolen.id])).toEqual([])
})

describe('a stop nobody planned', () => {
  const put = async (more: object = {}) => {
    const { train } = await now()
    const stage = train.nodes.find(({ kind }) => kind === 'stage')?.id
    return technician.ask('POST', '/api/stops', {
      id: uuidv7(),
      systemId: firm.systemId,
      tasks: [{ stageId: stage, action: 'change' }],
      ...more,
    })
  }
  test('stands on the day of whoever is there, once however often it is sent', async () => {
    const id = uuidv7()
    expect([(await put({ id })).status, (await put({ id })).status]).toEqual([200, 200])
    const today = await technician.ask('GET', '/api/today')
    expect(today.body.stops.filter((stop: { id: string }) => stop.id === id)).toHaveLength(1)
  })
  test('wants stages of this system and what can be done to them', async () => {
    expect((await put({ tasks: [{ stageId: uuidv7(), action: 'change' }] })).body.error.fields[0].path).toBe('tasks[0].stageId')
    const { train } = await now()
    const stage = train.nodes.find(({ kind }) => kind === 'stage')?.id
    expect((await put({ tasks: [{ stageId: stage, action: 'clean' }] })).body.error.fields[0].path).toBe('tasks[0].action')
    expect((await put({ tasks: [] })).status).toBe(400)
  })
})

describe('an edit made without a network', () => {
  const send = async (before: Page, after: Partial<Page>) => {
    const seen = { name: before.name, serialNo: before.serialNo, train: before.train }
    return technician.ask('POST', `/api/systems/${firm.systemId}/changes`, { before: seen, after: { ...seen, ...after } })
  }
  const versions = async () => (await peek(world.database, 'select 1 from train_version where system_id = $1', [firm.systemId])).length
  const first = async (): Promise<string> => stagesInFlow((await now()).train)[0]?.id ?? ''
  const known = (train: Train, id: string, more: object): Train => changeNode<'stage'>(train, id, more)

  test('is a version like any other, once however often it is sent', async () => {
    const before = await now()
    const id = await first()
    const edit = { serialNo: 'KM-2041', train: known(before.train, id, { drainCocks: 1 }) }
    expect((await send(before, edit)).body).toEqual({ theirs: [] })
    const after = await now()
    expect(after).toMatchObject({ version: before.version + 1, name: before.name, ...edit })
    expect((await send(before, edit)).body).toEqual({ theirs: [] })
    expect([(await now()).version, await versions()]).toEqual([after.version, after.version])
    const { body } = await owner.ask('GET', '/api/search?q=2041')
    expect(body.found.map(({ kind, title }: { kind: string; title: string }) => [kind, title])).toEqual([['system', before.name]])
  })

  test('leaves what somebody else changed meanwhile, names it in words, and saves the rest', async () => {
    const before = await now()
    const id = await first()
    await owner.ask('PUT', path(), { version: before.version, name: 'Scullery', train: known(before.train, id, { drainCocks: 2 }) })
    const mine = { name: 'Pantry', serialNo: 'KM-2042', train: known(before.train, id, { drainCocks: 0, reliefButton: true }) }
    const { position } = stagesInFlow(before.train)[0] ?? { position: 0 }
    expect((await send(before, mine)).body).toEqual({ theirs: ['name', `what is known of housing ${position}`] })
    const { name, serialNo, train } = await now()
    expect([name, serialNo]).toEqual(['Scullery', 'KM-2042'])
    expect(train.nodes.find((node) => node.id === id)).toMatchObject({ drainCocks: 2, reliefButton: true })
  })

  test('put together otherwise by both, theirs stands whole', async () => {
    const before = await now()
    const mine = insertAfter(before.train, await first(), {
      id: uuidv7(),
      kind: 'stage',
      media: 'carbon-block',
      housing: 'sump-small',
      position: 0,
    })
    const theirs = insertAfter(before.train, await first(), {
      id: uuidv7(),
      kind: 'stage',
      media: 'post-carbon',
      housing: 'push-fit',
      position: 0,
    })
    await save(before.version, theirs)
    expect((await send(before, { train: mine })).body).toEqual({ theirs: ['how it is put together'] })
    expect((await now()).train).toEqual(theirs)
  })

  test('that would leave no tap is refused, and nothing is changed', async () => {
    const before = await now()
    const nodes = before.train.nodes.filter(({ kind }) => kind !== 'outlet')
    expect((await send(before, { train: { ...before.train, nodes } })).status).toBe(400)
    expect(await now()).toEqual(before)
  })
})

test('a new system sent twice by a device that did not hear the answer is one system', async () => {
  const id = uuidv7()
  const train = familyTrain(FAMILIES['under-sink-2'], [uuidv7(), uuidv7()])
  const add = (siteId: string) => owner.ask('POST', '/api/systems', { id, siteId, name: 'Pantry', serialNo: 'P-7', train })
  const [one, again] = [await add(firm.siteId), await add(firm.siteId)]
  expect([one.status, again.body]).toEqual([200, one.body])
  expect(one.body).toMatchObject({ version: 1, serialNo: 'P-7' })
})
