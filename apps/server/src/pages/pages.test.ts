import { v7 as uuidv7 } from 'uuid'
import { demoId } from '../demo/ids'
import { peek } from '../testing/database'
import { batch, begun, ended, fitted } from '../testing/facts'
import { openWorld, type Person, type World } from '../testing/world'

let world: World
let tam: Person
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  tam = await world.signIn('tam@fennick.example')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

test('Today: Tam’s stops in order, what is due at each and the forecast that says why', async () => {
  const { body } = await tam.ask('GET', '/api/today')
  expect(body.stops.map(({ site }: { site: { name: string } }) => site.name)).toEqual([
    'Dr Hale’s dental surgery',
    'Net loft cottage',
    'Boatyard wash-down',
    'Kelp press',
    'Chandlery flat',
  ])
  for (const { tasks, system } of body.stops) {
    expect(tasks.length).toBeGreaterThan(0)
    for (const { stageId } of tasks) {
      const stage = system.stages.find(({ id }: { id: string }) => id === stageId)
      expect(stage.forecast).toMatchObject({ governing: expect.any(String), p50: expect.stringMatching(/^\d{4}-\d\d-\d\d$/) })
      const { p10, p50, p90, ended } = stage.forecast
      expect([p10, p50, p90]).toEqual([p10, p50, p90].sort())
      expect(ended >= 0 && ended <= 1).toBe(true)
    }
  }
})

test('another person’s day is another list', async () => {
  const wren = await world.signIn('wren@fennick.example')
  const { body } = await wren.ask('GET', '/api/today')
  // A disinfection's days fall on today or not, by the hour the demo was made.
  const sheets = body.stops.filter(({ job }: { job: unknown }) => job === null)
  expect(sheets.map(({ site }: { site: { name: string } }) => site.name)).toEqual(['Weaving mill', 'Choir school boarding house'])
})

test('the stop page brings the site’s own history, the wrong tenfold reading among it, and the membrane’s first passage', async () => {
  const { body } = await tam.ask('GET', `/api/stops/${demoId('stop', 'hale', 0)}`)
  expect(body.history.untreatedMgL).toEqual(expect.arrayContaining([41, 409, 410]))
  expect(body.history.baselinePassage).toBeCloseTo(25 / 405, 9)
})

test('a safety hold stands on the site until it is lifted, and in the list', async () => {
  const { body } = await isla.ask('GET', `/api/sites/${demoId('site', 'lighthouse')}`)
  expect(body.holds).toMatchObject([{ holdKind: 'boil-or-bottled', until: null }])
  const { sites } = (await isla.ask('GET', '/api/sites')).body
  expect(sites.find(({ name }: { name: string }) => name === 'Lighthouse guesthouse').hold).toBe('boil-or-bottled')
})

test('a part fitted today moves the forecast, the book lists the visit, the stop is done', async () => {
  const stopId = demoId('stop', 'net-loft', 0)
  const at = { siteId: demoId('site', 'net-loft'), systemId: demoId('system', 'net-loft'), visitId: uuidv7() }
  const before = (await tam.ask('GET', `/api/stops/${stopId}`)).body.stop
  await tam.ask('POST', '/api/facts', batch(begun(at, { stopId }), fitted(at, before.system.stages[0].id), ended(at)))
  const after = (await tam.ask('GET', `/api/stops/${stopId}`)).body.stop
  expect(after.visit).toEqual({ id: at.visitId, finished: true })
  expect(after.system.stages[0].forecast.p50 > before.system.stages[0].forecast.p50).toBe(true)
  expect(after.system.stages[0].part.fittedOn).toBe(before.day)
  const [newest] = (await tam.ask('GET', '/api/book')).body.visits
  expect(newest).toMatchObject({ visitId: at.visitId, siteName: 'Net loft cottage', outcome: 'done', fitted: ['BRK-SED-10'] })
  const taken = fitted(at, before.system.stages[1].id)
  await tam.ask('POST', '/api/facts', batch(taken, fitted(at, before.system.stages[1].id, { supersedes: taken.id, voided: true } as never)))
  expect((await tam.ask('GET', `/api/visits/${at.visitId}`)).body.visit.fitted).toEqual(['BRK-SED-10'])
})

test('an edit on an old version is refused with both sides; the newer one is taken', async () => {
  const id = demoId('site', 'boatyard')
  const { version, id: _id, ...fields } = (await isla.ask('GET', `/api/sites/${id}`)).body.site
  expect((await isla.ask('PUT', `/api/sites/${id}`, { ...fields, version, access: 'Key at the slip' })).body).toMatchObject({
    version: version + 1,
    access: 'Key at the slip',
  })
  const stale = await isla.ask('PUT', `/api/sites/${id}`, { ...fields, version, access: 'Somewhere else' })
  expect(stale.status).toBe(409)
  expect(stale.body.error).toMatchObject({
    code: 'STALE_VERSION',
    retryable: false,
    current: { version: version + 1, access: 'Key at the slip' },
  })
  const [row] = await peek<{ access: string }>(world.database, 'select access from site where id = $1', [id])
  expect(row?.access).toBe('Key at the slip')
})

test('two edits at once: one wins, the other is shown the winner', async () => {
  const id = demoId('site', 'nursery')
  const { version, id: _id, ...fields } = (await isla.ask('GET', `/api/sites/${id}`)).body.site
  const both = await Promise.all(['left', 'right'].map((access) => isla.ask('PUT', `/api/sites/${id}`, { ...fields, version, access })))
  expect(both.map(({ status }) => status).sort()).toEqual([200, 409])
})

test('the demo’s ferries sail between leaving and arriving, and nobody visits the hostel in its closed months', async () => {
  const stops = await peek<{ ferry_at: string; leave_min: number; arrive_min: number }>(
    world.database,
    'select ferry_at, leave_min, arrive_min from stop where ferry_at is not null',
  )
  expect(stops.length).toBeGreaterThan(2)
  for (const { ferry_at, leave_min, arrive_min } of stops) {
    const [hours, minutes] = ferry_at.split(':').map(Number) as [number, number]
    expect(hours * 60 + minutes).toBeGreaterThanOrEqual(leave_min)
    expect(hours * 60 + minutes).toBeLessThan(arrive_min)
  }
  expect(await peek(world.database, `select 1 from stop join site on site.id = stop.site_id where site.name = 'Youth hostel'`)).toEqual([])
})

test('the shelf: what the coming week’s changes want', async () => {
  const { needs, parts } = (await tam.ask('GET', '/api/shelf')).body
  expect(needs.find(({ partNumber }: { partNumber: string }) => partNumber === 'LT-FL-10')).toMatchObject({
    count: 1,
    forSites: ['Chandlery flat'],
  })
  expect(parts.every(({ priceMinor }: { priceMinor: number }) => Number.isInteger(priceMinor))).toBe(true)
})

test('the week has seven days from today', async () => {
  const { body } = await tam.ask('GET', '/api/week')
  expect(body.days).toHaveLength(7)
  expect(body.days[0].stops.length).toBe(5)
})

test('a lost connection is said in words and mends itself', async () => {
  await peek(
    world.database,
    `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
  )
  const first = await tam.ask('GET', '/api/today')
  if (first.status !== 200) expect(first.body.error).toMatchObject({ code: 'DATABASE_AWAY', retryable: true })
  const answers = []
  for (let tries = 0; tries < 6; tries++) answers.push((await tam.ask('GET', '/api/today')).status)
  expect(answers.at(-1)).toBe(200)
})
