import { peek } from '../../testing/database'
import { addFirm, openWorld, type World } from '../../testing/world'

let world: World
let firm: Awaited<ReturnType<typeof addFirm>>
beforeAll(async () => {
  world = await openWorld('empty')
  firm = await addFirm(world, 'ledger')
})
afterAll(() => world.close())

test('whoever changes rights or exports a list is written down, the latest first; a change of a name alone is not', async () => {
  const owner = await world.signIn(firm.email('owner'))
  const edit = { version: 1, name: 'Wren', role: 'technician', skills: [], van: null, active: true }
  expect((await owner.ask('PUT', `/api/people/${firm.technicianId}`, edit)).status).toBe(200)
  expect((await owner.ask('GET', '/api/audit')).body.deeds).toEqual([])
  expect((await owner.ask('PUT', `/api/people/${firm.technicianId}`, { ...edit, version: 2, role: 'planner' })).status).toBe(200)
  expect((await owner.ask('PUT', `/api/people/${firm.viewerId}`, { ...edit, name: 'Vee', role: 'viewer', active: false })).status).toBe(200)
  for (const list of ['/api/due.csv', '/api/book.csv', '/api/round.csv', '/api/round.geojson'])
    expect((await owner.ask('GET', list)).status).toBe(200)
  const { deeds } = (await owner.ask('GET', '/api/audit')).body
  expect(deeds.map(({ what, said, person }: { what: string; said: string; person: string }) => [what, said, person])).toEqual([
    ['list-exported', 'Sites and tours, as GeoJSON', 'owner of ledger'],
    ['list-exported', 'The published round, as CSV', 'owner of ledger'],
    ['list-exported', 'The book, as CSV', 'owner of ledger'],
    ['list-exported', 'What is due, as CSV', 'owner of ledger'],
    ['rights-changed', 'Vee may not sign in any more', 'owner of ledger'],
    ['rights-changed', 'Wren: technician before, planner now', 'owner of ledger'],
  ])
})

test('who opened a customer’s page is written once a day, shown to an owner alone, and nobody changes it', async () => {
  const firm = await addFirm(world, 'looked')
  const [owner, technician] = [await world.signIn(firm.email('owner')), await world.signIn(firm.email('technician'))]
  const path = `/api/sites/${firm.siteId}`
  for (let times = 0; times < 3; times++) expect((await technician.ask('GET', path)).status).toBe(200)
  expect((await technician.ask('GET', `${path}/life`)).status).toBe(200)
  expect((await technician.ask('GET', '/api/audit/looks')).status).toBe(403)
  const { looks } = (await owner.ask('GET', '/api/audit/looks')).body
  expect(looks).toEqual([
    { day: expect.stringMatching(/^\d{4}-\d{2}-\d{2}$/), person: expect.any(String), count: 1, names: [expect.any(String)] },
  ])
  // A page that is not there was not looked at.
  expect((await technician.ask('GET', `/api/sites/${world.deps.newId()}`)).status).toBe(404)
  expect((await owner.ask('GET', '/api/audit/looks')).body.looks).toEqual(looks)
  await expect(peek(world.database, `delete from customer_look where firm_id = '${firm.firmId}'`)).rejects.toThrow()
})
