import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { firmFileSchema } from '@evenround/contract/export'
import { v7 as uuidv7 } from 'uuid'
import { openZip } from '../../firm-file/zip'
import { peek } from '../../testing/database'
import { addFirm, openWorld, PASSWORD, SETUP_CODE, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
const folder = mkdtempSync(join(tmpdir(), 'export-'))
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'otterbank')
})
afterAll(async () => {
  await world.close()
  rmSync(folder, { recursive: true })
})

const fetched = async (id: string, who: { cookie: string }): Promise<Response> =>
  world.app.request(`/api/firm-file/${id}`, { headers: { cookie: who.cookie } })

test('the owner has the whole firm in one file, once asked for; who asked is recorded and cannot be taken back', async () => {
  const owner = await world.signIn(firm.email('owner'))
  expect((await owner.ask('GET', '/api/firm-file')).body).toEqual({ file: null })
  const asked = await owner.ask('POST', '/api/firm-file')
  expect(asked.status).toBe(200)
  expect(firmFileSchema.parse(asked.body.file).state).toBe('asked')
  const { file } = (await owner.ask('GET', '/api/firm-file')).body
  expect(firmFileSchema.parse(file)).toMatchObject({ state: 'made', id: asked.body.file.id })
  const answer = await fetched(file.id, owner)
  expect(answer.headers.get('content-type')).toBe('application/zip')
  expect(answer.headers.get('cache-control')).toContain('no-store')
  const path = join(folder, 'out.zip')
  const bytes = Buffer.from(await answer.arrayBuffer())
  expect(bytes.length).toBe(file.bytes)
  writeFileSync(path, bytes)
  const zip = await openZip(path)
  expect(zip.names).toEqual(expect.arrayContaining(['manifest.json', 'data/site.jsonl', 'csv/site.csv', 'schemas/site.schema.json']))
  zip.close()
  expect((await owner.ask('GET', '/api/audit')).body.deeds).toMatchObject([{ what: 'firm-exported' }])
  await expect(world.deps.inFirm(firm.firmId, (scope) => scope.query('delete from audit where firm_id = $1'))).rejects.toThrow(
    /append-only|permission denied/,
  )
})

test('nobody else has it: not the planner, not another firm, and not after a week', async () => {
  const owner = await world.signIn(firm.email('owner'))
  const { file } = (await owner.ask('GET', '/api/firm-file')).body
  const planner = {
    id: uuidv7(),
    name: 'Perrin Holm',
    email: 'perrin@otterbank.example',
    role: 'planner',
    skills: [],
    van: null,
    password: PASSWORD,
  }
  expect((await owner.ask('POST', '/api/people', planner)).status).toBe(200)
  for (const email of [planner.email, firm.email('technician'), firm.email('viewer')]) {
    const other = await world.signIn(email)
    expect([(await fetched(file.id, other)).status, (await other.ask('POST', '/api/firm-file')).status]).toEqual([403, 403])
    expect((await other.ask('GET', '/api/audit')).status).toBe(403)
  }
  const rival = await addFirm(world, 'rival')
  expect((await fetched(file.id, await world.signIn(rival.email('owner')))).status).toBe(404)
  const before = world.clock.now
  world.clock.now = new Date(before.getTime() + 8 * 86_400_000)
  expect((await fetched(file.id, await world.signIn(firm.email('owner')))).status).toBe(404)
  expect(await peek(world.database, 'select 1 from firm_file_part')).toEqual([])
  world.clock.now = before
})

test('the first screen of an empty server takes the file, behind the code; its owner gets a link', async () => {
  const owner = await world.signIn(firm.email('owner'))
  await owner.ask('POST', '/api/firm-file')
  const { file } = (await owner.ask('GET', '/api/firm-file')).body
  const zip = Buffer.from(await (await fetched(file.id, owner)).arrayBuffer())
  const empty = await openWorld('empty')
  const send = (body: Buffer, code = SETUP_CODE) =>
    empty.app.request('/api/setup/file', {
      method: 'POST',
      headers: { 'content-type': 'application/zip', 'x-setup-code': code },
      body: new Uint8Array(body),
    })
  expect((await send(zip, 'WRONG-CODE')).status).toBe(403)
  const text = await send(Buffer.from('a letter'))
  expect([text.status, (await text.json()).error.message]).toEqual([400, 'This is no ZIP that can be read.'])
  const answer = await send(zip)
  const { firm: name, owners } = await answer.json()
  expect([answer.status, name, owners.length]).toEqual([200, 'otterbank', 1])
  const use = await empty.app.request('/api/auth/links/use', {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ token: owners[0].token, password: 'heron-on-the-weir' }),
  })
  expect(use.status).toBe(200)
  const there = await empty.signIn(firm.email('owner'), 'heron-on-the-weir')
  expect((await there.ask('GET', '/api/sites')).body.sites).toEqual((await owner.ask('GET', '/api/sites')).body.sites)
  expect((await there.ask('GET', '/api/audit')).body.deeds).toMatchObject([
    { what: 'firm-brought-in', person: null },
    { what: 'firm-exported' },
    { what: 'rights-changed', said: 'Perrin Holm is new: planner' },
    { what: 'firm-exported' },
  ])
  expect((await send(zip)).status).toBe(409)
  await empty.close()
})
