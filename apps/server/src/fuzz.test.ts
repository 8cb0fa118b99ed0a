import { CALC, calcJsonSchema } from '@evenround/contract/calc'
import { Client } from 'pg'
import { v7 as uuidv7 } from 'uuid'
import { batch, begun, fitted, measured, ticked } from './testing/facts'
import { type Description, DOORS, type Door, drawer, type Schema, withDefinitions } from './testing/fuzz/draw'
import { openWorld, type Person, type World } from './testing/world'

/** Requests that nobody means, by the description of the API: none ends in an error of ours, and none that is refused leaves anything. */
const REQUESTS = Number(process.env.FUZZ_REQUESTS ?? 150)
const SEED = Number(process.env.EVEN_ROUND_SEED ?? 1)
/** Counts of what was asked and failed are written also for a refused request; a link for a forgotten password after its answer. */
const MEANT = ['rate_limit', 'sign_in_failure', 'audit', 'person_link', 'firm_revision']

let world: World
let people: Record<'owner' | 'technician' | 'stranger', Person>
let client: Client
beforeAll(async () => {
  world = await openWorld('demo')
  client = new Client({ connectionString: world.database.adminUrl })
  await client.connect()
  people = {
    owner: await world.signIn('isla@fennick.example'),
    technician: await world.signIn('tam@fennick.example'),
    stranger: { cookie: '', ask: () => Promise.reject(new Error('unused')) },
  }
})
afterAll(async () => {
  await client.end()
  await world.close()
})

const description = async (): Promise<Description> => (await people.owner.ask('GET', '/api/openapi.json')).body

/** The scriptable core's functions, each as a route of its own; a round is not planned here, which takes as long as it is given. */
function calcDoors(described: Description): Door[] {
  const names = Object.keys(CALC).filter((name) => name !== 'round.plan')
  return names.map((name) => {
    const [body, definitions] = withDefinitions(name, calcJsonSchema(name) as Schema)
    described.components = { schemas: { ...described.components?.schemas, ...definitions } }
    return { method: 'POST', path: `/api/calc/${name}`, body }
  })
}

/** Facts that would be taken at a place of the demo's. */
async function factsAtHome(): Promise<() => unknown> {
  const { rows } = await client.query<{ site: string; system: string; stage: string }>(
    'select y.site_id as site, y.id as system, s.id as stage from system y join stage s on s.firm_id = y.firm_id and s.system_id = y.id limit 1',
  )
  const [home] = rows
  if (!home) throw new Error('the demo has no system')
  return () => {
    const place = { siteId: home.site, systemId: home.system, visitId: uuidv7() }
    return batch(begun(place), measured(place, 212), fitted(place, home.stage), ticked(place, 'before/measure'))
  }
}

/** Looking back and writing a firm's whole file take seconds each. */
const SELDOM = ['GET /api/due-rules/hindsight', 'POST /api/firm-file']

/** From here on every statement that changes a row is written down with its transaction: what is rolled back is not. */
async function watchWrites(): Promise<() => Promise<string[]>> {
  await client.query('create table written (at bigserial, name text)')
  await client.query('grant insert on written to public')
  await client.query('grant usage on sequence written_at_seq to public')
  await client.query(`create function note_write() returns trigger language plpgsql as $$
    begin insert into public.written (name) values (tg_table_name); return null; end $$`)
  const { rows } = await client.query<{ name: string }>(
    `select c.oid::regclass::text as name from pg_class c where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p')
     and not c.relispartition and c.relname not in ('written', 'schema_migration')`,
  )
  for (const { name } of rows)
    if (!MEANT.includes(name))
      await client.query(`create trigger note_write after insert or update or delete on ${name} for each row execute function note_write()`)
  let last = 0
  return async () => {
    const found = await client.query<{ at: string; name: string }>('select at, name from written where at > $1 order by at', [last])
    last = Number(found.rows.at(-1)?.at ?? last)
    return found.rows.map(({ name }) => name)
  }
}

test('every route of the server is in the description or among the doors before the sign-in', async () => {
  const documented = Object.entries((await description()).paths).flatMap(([path, methods]) =>
    Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`),
  )
  const known = new Set([...documented, ...DOORS.map(({ method, path }) => `${method} ${path}`)])
  const served = world.app.routes
    .filter(({ method, path }) => method !== 'ALL' && path.startsWith('/api/'))
    .map(({ method, path }) => `${method} ${path.replaceAll(/:(\w+)/g, '{$1}')}`)
  expect([...new Set(served)].filter((route) => !known.has(route))).toEqual([])
})

test(`${REQUESTS} requests nobody means: none ends in an error of ours, none that is refused is stored`, async () => {
  const ids = await client.query<{ id: string }>(
    `(select id from site limit 20) union all (select id from system limit 20) union all (select id from stage limit 20)
     union all (select id from stop limit 20) union all (select id from person) union all (select id from part limit 20)
     union all (select id from disinfection) union all (select id from chlorine_product)`,
  )
  const described = await description()
  const doors = [...DOORS, ...calcDoors(described)]
  const known = ids.rows.map(({ id }) => id)
  const samples = { 'POST /api/facts': await factsAtHome() }
  const { next, routes } = drawer({ description: described, doors, known, samples, seldom: SELDOM, seed: SEED })
  expect(routes).toBeGreaterThan(100)
  const written = await watchWrites()
  const wrong: unknown[] = []
  const statuses = new Map<number, number>()
  // People are signed in anew where a request signed them out; the owner asks most, who may most.
  const turns = ['owner', 'owner', 'technician', 'stranger'] as const
  for (let index = 0; index < REQUESTS; index++) {
    const drawn = next()
    const who = turns[Math.floor(index / routes) % turns.length] ?? 'owner'
    const answer = await world.app.request(drawn.path, {
      method: drawn.method,
      headers: { cookie: people[who].cookie, 'x-forwarded-for': `at ${index % 50}`, ...drawn.headers },
      ...(drawn.body === undefined || drawn.method === 'GET' ? {} : { body: drawn.body }),
    })
    await answer.arrayBuffer()
    statuses.set(answer.status, (statuses.get(answer.status) ?? 0) + 1)
    const stored = await written()
    if (answer.status >= 500) wrong.push({ status: answer.status, who, ...drawn })
    if (answer.status >= 400 && stored.length > 0) wrong.push({ stored, status: answer.status, who, ...drawn })
    if (answer.status === 401 && who !== 'stranger' && !drawn.path.startsWith('/api/auth')) {
      people.owner = await world.signIn('isla@fennick.example').catch(() => people.owner)
      people.technician = await world.signIn('tam@fennick.example').catch(() => people.technician)
      await written()
    }
  }
  // It reaches what stands behind the checks too.
  expect(statuses.get(200) ?? 0).toBeGreaterThan(REQUESTS / 20)
  expect(wrong).toEqual([])
})
