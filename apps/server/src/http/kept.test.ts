import { createApp } from '../app'
import { dataSource } from '../db/data-source'
import { firmScopes } from '../db/scope'
import { peek } from '../testing/database'
import { batch, ticked } from '../testing/facts'
import { asker, openWorld, type Person, type World } from '../testing/world'
import { KEPT_ROUTES } from './kept'

let world: World
let owner: Person
let firmId: string
let [stopId, siteId, visitId] = ['', '', '']
const worked = { out: 0 }
/** The same server as a process of its own, which counts what it asks the database for. */
let own: ReturnType<typeof createApp>

beforeAll(async () => {
  world = await openWorld('demo')
  owner = await world.signIn('isla@fennick.example')
  own = createApp(
    {
      ...world.deps,
      inFirm: (firm, work) => {
        worked.out++
        return world.deps.inFirm(firm, work)
      },
    },
    { ready: async () => true, signInHints: [], keepBytes: 1024 * 1024 },
  )
  const [stop] = await peek<{ id: string; site_id: string; firm_id: string }>(
    world.database,
    'select id, site_id, firm_id from stop order by day limit 1',
  )
  const [visit] = await peek<{ visit_id: string }>(world.database, 'select visit_id from fact_visit_begun limit 1')
  if (!stop || !visit) throw new Error('the demo has no stop or no visit')
  ;[stopId, siteId, firmId, visitId] = [stop.id, stop.site_id, stop.firm_id, visit.visit_id]
})
afterAll(() => world.close())

const revision = async (): Promise<number> => {
  const [row] = await peek<{ records: string }>(world.database, 'select records from revision_of($1)', [firmId])
  return Number(row?.records)
}

const asked = async (path: string, cookie = owner.cookie, language = 'en') => {
  const before = worked.out
  const answer = await own.request(path, { headers: { cookie, 'accept-language': language } })
  return { status: answer.status, text: await answer.text(), worked: worked.out - before }
}

const pathOf = (route: string): string =>
  route.replace('GET ', '').replace('stops/{id}', `stops/${stopId}`).replace('visits/{id}', `visits/${visitId}`)

test.each(Object.keys(KEPT_ROUTES))('%s writes nothing down, and is worked out once for as long as nothing changes', async (route) => {
  const before = await revision()
  const first = await asked(pathOf(route))
  const second = await asked(pathOf(route))
  expect([first.status, second.status, second.worked]).toEqual([200, 200, 0])
  expect(first.worked).toBeGreaterThan(0)
  expect(second.text).toBe(first.text)
  expect(await revision()).toBe(before)
})

/** How often tables of ticks were looked at so far, by anybody. */
const ticksRead = async (): Promise<number> => {
  const [row] = await peek<{ scans: string }>(
    world.database,
    `select sum(seq_scan + coalesce(idx_scan, 0)) as scans from pg_stat_user_tables where relname ~ '^(fact_step_done|fact_block_done|fact_receipt)'`,
  )
  return Number(row?.scans)
}

test.each(Object.entries(KEPT_ROUTES).filter(([, { ticks }]) => !ticks))('%s reads no tick', async (route) => {
  const app = createApp(world.deps, { ready: async () => true, signInHints: [] })
  const flush = () => world.source.query('select pg_stat_force_next_flush()')
  // Each of the server's connections hands in what it counted.
  const settled = async () => {
    await Promise.all(Array.from({ length: 8 }, flush))
    await Promise.all(Array.from({ length: 8 }, flush))
    return ticksRead()
  }
  const before = await settled()
  expect((await asker(app, owner.cookie)('GET', pathOf(route))).status).toBe(200)
  expect(await settled()).toBe(before)
  // And the count does count: a visit's page shows its ticks.
  expect((await asker(app, owner.cookie)('GET', pathOf('GET /api/visits/{id}'))).status).toBe(200)
  expect(await settled()).toBeGreaterThan(before)
})

test('a tick changes the pages that show ticks, and leaves the others as they are', async () => {
  const [others, shown] = ['/api/sites', pathOf('GET /api/visits/{id}')]
  await asked(others)
  const before = JSON.parse((await asked(shown)).text).facts.length
  const [begun] = await peek<{ site_id: string }>(world.database, 'select site_id from fact_visit_begun where visit_id = $1', [visitId])
  const place = { siteId: begun?.site_id ?? '', systemId: '', visitId }
  expect((await owner.ask('POST', '/api/facts', batch(ticked(place, 'one'), ticked(place, 'two')))).status).toBe(200)
  expect((await asked(others)).worked).toBe(0)
  expect(JSON.parse((await asked(shown)).text).facts).toHaveLength(before + 2)
})

test('what another process wrote is there at the next asking', async () => {
  const before = await asked('/api/sites')
  const page = (await owner.ask('GET', `/api/sites/${siteId}`)).body.site
  const edit = await owner.ask('POST', `/api/sites/${siteId}/changes`, {})
  expect(edit.status).toBe(400)
  // A refused change changed nothing.
  expect((await asked('/api/sites')).worked).toBe(0)
  await peek(world.database, `update site set name = 'The Long Noust' where firm_id = $1 and id = $2`, [firmId, siteId])
  const after = await asked('/api/sites')
  expect(before.text).toContain(page.name)
  expect(after.text).toContain('The Long Noust')
  expect(after.worked).toBe(1)
})

test('a change counts once it is committed, once for each transaction, and not at all where it is taken back', async () => {
  const source = dataSource({ url: world.database.appUrl, poolSize: 3 })
  await source.initialize()
  const inFirm = firmScopes(source)
  const touch = `update site set name = name where firm_id = $1`
  const start = await revision()
  let seen = Number.NaN
  let go = (): void => undefined
  const held = new Promise<void>((resolve) => {
    go = resolve
  })
  try {
    const slow = inFirm(firmId, async (scope) => {
      await scope.query(
        `insert into stale_stage (firm_id, stage_id, marked_at) select firm_id, id, now() from stage where firm_id = $1 limit 1 on conflict do nothing`,
      )
      await scope.query(touch)
      await held
    })
    // Beside it a second one of the same firm, which does not wait for the first.
    await inFirm(firmId, (scope) => scope.query(`update firm set name = name where firm_id = $1`))
    seen = await revision()
    go()
    await slow
    expect([seen, await revision()]).toEqual([start + 1, start + 2])
    await expect(
      inFirm(firmId, async (scope) => {
        await scope.query(touch)
        throw new Error('taken back')
      }),
    ).rejects.toThrow('taken back')
    expect(await revision()).toBe(start + 2)
  } finally {
    go()
    await source.destroy()
  }
})

test('forty writers of one firm at once are forty changes', async () => {
  const source = dataSource({ url: world.database.appUrl, poolSize: 40 })
  await source.initialize()
  const inFirm = firmScopes(source)
  const start = await revision()
  let arrived = 0
  let go = (): void => undefined
  const all = new Promise<void>((resolve) => {
    go = resolve
  })
  try {
    await Promise.all(
      Array.from({ length: 40 }, (_, index) =>
        inFirm(firmId, async (scope) => {
          await scope.query(`delete from stale_stage where firm_id = $1 and marked_at < to_timestamp($2)`, [-index])
          if (++arrived === 40) go()
          await all
        }),
      ),
    )
    expect(await revision()).toBe(start + 40)
  } finally {
    await source.destroy()
  }
})

test('who asks for the same at the same time waits for one answer', async () => {
  await peek(world.database, 'update site set name = name where firm_id = $1', [firmId])
  const before = worked.out
  const answers = await Promise.all(Array.from({ length: 30 }, () => asked('/api/due?limit=50')))
  expect(new Set(answers.map(({ status, text }) => `${status} ${text}`)).size).toBe(1)
  expect(worked.out - before).toBe(1)
})

test('each person has their own day, each language its own words, and another query its own rows', async () => {
  const tam = await world.signIn('tam@fennick.example')
  const [islas, tams] = [await asked('/api/me'), await asked('/api/me', tam.cookie)]
  expect(JSON.parse(islas.text).person.email).toBe('isla@fennick.example')
  expect(JSON.parse(tams.text).person.email).toBe('tam@fennick.example')
  await asked('/api/office')
  expect((await asked('/api/office', owner.cookie, 'de')).worked).toBe(1)
  expect(JSON.parse((await asked('/api/due?limit=2')).text).rows).toHaveLength(2)
  expect(JSON.parse((await asked('/api/due?limit=3')).text).rows).toHaveLength(3)
  // Kept for the owner, and nothing to somebody who may not see it.
  const wren = await world.signIn('wren@fennick.example')
  const [role] = await peek<{ role: string }>(world.database, `select role from person where firm_id = $1 and name like 'Wren%'`, [firmId])
  expect([role?.role, (await asked('/api/office', wren.cookie)).status]).toEqual(['technician', 403])
})

test('the minute ends what is kept, and a refusal is kept by nobody', async () => {
  await asked('/api/today')
  world.clock.now = new Date(world.clock.now.getTime() + 60_000)
  expect((await asked('/api/today')).worked).toBe(1)
  const nobody = '/api/stops/01a2274b-c65f-740d-8298-c2d18adb1884'
  expect([(await asked(nobody)).status, (await asked(nobody)).worked]).toEqual([404, 1])
})

test('without memory for it each answer is worked out anew', async () => {
  const app = createApp(world.deps, { ready: async () => true, signInHints: [], keepBytes: 0 })
  const first = await asker(app, owner.cookie)('GET', '/api/sites')
  const [page] = first.body.sites
  expect((await asker(app, owner.cookie)('GET', '/api/sites')).text).toBe(first.text)
  expect(page.id).toEqual(expect.any(String))
})
