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
