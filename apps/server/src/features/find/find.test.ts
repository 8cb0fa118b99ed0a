import type { Fact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { peek } from '../../testing/database'
import { batch, ended, fitted } from '../../testing/facts'
import { addFirm, openWorld, type Person, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
let other: Awaited<ReturnType<typeof addFirm>>
let owner: Person
const SITE = {
  name: 'Café Weir',
  village: 'Quay',
  island: '',
  access: 'Key under the blue pot',
  contact: 'Odd Larn',
  phone: '+351 555 0147',
  people: 2,
  source: 'municipal',
  chlorineMgL: null,
}
const siteId = uuidv7()
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'weir')
  other = await addFirm(world, 'narrows')
  owner = await world.signIn(firm.email('owner'))
  await owner.ask('POST', '/api/sites', { id: siteId, ...SITE })
})
afterAll(() => world.close())

const find = async (person: Person, q: string): Promise<{ kind: string; title: string; siteName: string; id: string }[]> =>
  (await person.ask('GET', `/api/search?q=${encodeURIComponent(q)}`)).body.found
const titles = async (q: string): Promise<string[]> => (await find(owner, q)).map(({ kind, title }) => `${kind} ${title}`)

test.each([
  ['by part of its name', 'weir'],
  ['without its accent', 'cafe'],
  ['with a slip', 'cafee weir'],
  ['by whom to ask for', 'larn'],
  ['by the digits of its telephone', '5550147'],
  ['by how to get in', 'blue pot'],
  ['by where it is', 'quay'],
])('a site is found %s', async (_, q) => {
  expect((await titles(q))[0]).toBe('site Café Weir')
})

test('a part by its number and its mark, a visit by its note; what was taken back is found no more', async () => {
  const at = { siteId: firm.siteId, systemId: firm.systemId, visitId: uuidv7() }
  const part = fitted(at, firm.stageIds[0], { partNumber: 'LT-SED-05', markText: '1 · LT-SED-05 · 29 Nov' } as Partial<Fact>)
  const end = ended(at, { note: 'Gasket renewed, meter is stiff' } as Partial<Fact>)
  const { body } = await owner.ask('POST', '/api/facts', batch(part, end))
  expect(body.results.map(({ status }: { status: string }) => status)).toEqual(['accepted', 'accepted'])
  expect(await titles('sed-05')).toContain('part LT-SED-05')
  expect((await find(owner, 'gasket'))[0]).toMatchObject({ kind: 'visit', id: at.visitId, siteName: 'Site of weir' })
  await owner.ask('POST', '/api/facts', batch({ ...part, id: uuidv7(), supersedes: part.id, voided: true } as Fact))
  expect(await titles('sed-05')).toEqual([])
})

test('nothing of another firm is found, whatever is asked, and a sign of a pattern is a sign', async () => {
  const theirs = await world.signIn(other.email('owner'))
  expect(await find(theirs, 'café weir')).toEqual([])
  for (const q of ['%', '__', '%%', "' or true --", 'a'.repeat(80), '\\'])
    for (const { siteName } of await find(theirs, q)) expect(siteName).toBe('Site of narrows')
  expect(await titles('%%')).toEqual([])
})

test('the server’s own role reads no line of the table, and the function finds nothing without a firm', async () => {
  await expect(world.source.query('select * from search_entry')).rejects.toThrow('permission denied')
  await expect(world.source.query("select put_search($1, 'site', $1, $1, 'x', 'x', null)", [other.firmId])).rejects.toThrow(
    'permission denied',
  )
  expect(await world.source.query("select * from search_firm('weir', 10)")).toEqual([])
})

test('a site that is renamed or gone is found by what it is now', async () => {
  await owner.ask('PUT', `/api/sites/${siteId}`, { ...SITE, name: 'Harbour bar', version: 1 })
  expect([await titles('harbour bar'), (await titles('café')).filter((title) => title.startsWith('site'))]).toEqual([
    ['site Harbour bar'],
    [],
  ])
  await peek(world.database, 'update site set gone_at = now() where id = $1', [siteId])
  expect(await titles('harbour bar')).toEqual([])
})
