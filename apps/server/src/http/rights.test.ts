import { hasRight, ROLES, type Role } from '@evenround/core/firm'
import { v7 as uuidv7 } from 'uuid'
import { DOORS } from '../testing/fuzz/draw'
import { addFirm, openWorld, PASSWORD, type Person, type World } from '../testing/world'
import { ROUTE_LIMITS } from './often'
import { ROUTE_RIGHTS } from './rights'

let world: World
let people: Record<Role, Person>
beforeAll(async () => {
  world = await openWorld('empty')
  const firm = await addFirm(world, 'rights')
  const owner = await world.signIn(firm.email('owner'))
  const planner = {
    id: uuidv7(),
    name: 'Planner',
    email: firm.email('planner'),
    role: 'planner',
    skills: [],
    van: null,
    password: PASSWORD,
  }
  expect((await owner.ask('POST', '/api/people', planner)).status).toBe(200)
  people = {
    owner,
    planner: await world.signIn(planner.email),
    technician: await world.signIn(firm.email('technician')),
    viewer: await world.signIn(firm.email('viewer')),
  }
})
afterAll(() => world.close())

/** Routes that whoever is signed in has, before any right is asked for. */
const BEFORE = ['GET /api/live', 'GET /api/openapi.json']

test('every route behind the sign-in stands in the table, and nothing that is no route', async () => {
  const { paths } = (await people.owner.ask('GET', '/api/openapi.json')).body as { paths: Record<string, Record<string, unknown>> }
  const routes = Object.entries(paths).flatMap(([path, methods]) => Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`))
  expect(Object.keys(ROUTE_RIGHTS).sort()).toEqual([...routes, ...BEFORE].sort())
  expect(DOORS.filter(({ method, path }) => `${method} ${path}` in ROUTE_RIGHTS).map(({ path }) => path)).toEqual(['/api/openapi.json'])
})

test('what is counted by person is a route each, and looking whether a file is made is not counted', () => {
  expect(Object.keys(ROUTE_LIMITS).filter((route) => !(route in ROUTE_RIGHTS))).toEqual([])
  const exported = Object.entries(ROUTE_RIGHTS).flatMap(([route, right]) => (right === 'export' ? [route] : []))
  expect(exported.filter((route) => ROUTE_LIMITS[route] !== 'export')).toEqual([])
  expect(ROUTE_LIMITS['GET /api/firm-file']).toBeUndefined()
})

/** One's own sign-ins anybody ends; those of somebody else, as here, only who manages people. */
const OF_ONESELF = /\/sign-ins/

const CELLS = Object.entries(ROUTE_RIGHTS)
  .filter(([route]) => !BEFORE.includes(route))
  .flatMap(([route, right]) =>
    ROLES.map((role) => [role, route, hasRight(role, OF_ONESELF.test(route) ? 'manage-people' : right)] as const),
  )

test.each(CELLS.filter(([, route]) => !route.endsWith('/api/demo')))('%s, %s: %p', async (role, route, allowed) => {
  const [method = '', path = ''] = route.split(' ')
  const answer = await people[role].ask(method, path.replaceAll(/\{\w+\}/g, uuidv7()), method === 'GET' ? undefined : {})
  if (allowed) expect([route, answer.status]).not.toEqual([route, 403])
  else expect([answer.status, answer.body?.error?.code]).toEqual([403, 'NO_RIGHT'])
})
