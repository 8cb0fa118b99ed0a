import { v7 as uuidv7 } from 'uuid'
import { demoId } from '../demo/ids'
import { peek } from '../testing/database'
import { batch, begun, ended } from '../testing/facts'
import { METRICS_TOKEN, openWorld, type Person, type World } from '../testing/world'
import { dayIn, instantAt } from '../time/zone'
import { homeMin } from './stops'

let world: World
let tam: Person
let isla: Person
beforeAll(async () => {
  world = await openWorld('demo')
  tam = await world.signIn('tam@fennick.example')
  isla = await world.signIn('isla@fennick.example')
})
afterAll(() => world.close())

test('the day changes at the firm’s midnight, not at the server’s', async () => {
  const { day } = (await tam.ask('GET', '/api/today')).body
  const midnight = instantAt('Atlantic/Azores', day, 24 * 60 - 1)
  world.clock.now = midnight
  expect((await tam.ask('GET', '/api/today')).body.day).toBe(day)
  world.clock.now = new Date(midnight.getTime() + 60_000)
  expect((await tam.ask('GET', '/api/today')).body.day > day).toBe(true)
  world.clock.now = new Date()
})

test('an instant belongs to its day also around the clock change, and eight o’clock stays eight', () => {
  expect(dayIn('Atlantic/Azores', new Date('2026-03-29T00:30:00Z'))).toBe('2026-03-28')
  expect(dayIn('Atlantic/Azores', new Date('2026-03-29T01:30:00Z'))).toBe('2026-03-29')
  expect(instantAt('Atlantic/Azores', '2026-03-28', 480).toISOString()).toBe('2026-03-28T09:00:00.000Z')
  expect(instantAt('Atlantic/Azores', '2026-03-30', 480).toISOString()).toBe('2026-03-30T08:00:00.000Z')
  expect(() => dayIn('Nowhere/At-All', new Date())).toThrow('no such time zone')
})

test('the van is home after the last stop and the way back; an empty day has no way home', () => {
  const stop = (orderNo: number, arriveMin: number) => ({ orderNo, arriveMin, workMin: 30, travelMin: 20 })
  expect(homeMin([stop(2, 700), stop(1, 500)])).toBe(750)
  expect(homeMin([])).toBeNull()
})

test('changing the firm’s school changes what decides, at once', async () => {
  const causes = async (): Promise<string[]> => {
    const { systems } = (await isla.ask('GET', `/api/sites/${demoId('site', 'kelp-press')}`)).body
    return systems[0].stages.map(({ forecast }: { forecast: { governing: string } }) => forecast.governing)
  }
  expect(await causes()).toEqual(['calendar', 'throughput'])
  const firm = (await isla.ask('GET', '/api/firm')).body
  const edit = { version: firm.version, name: firm.name, gallon: firm.gallon, schools: { ...firm.schools, change: 'calendar' } }
  expect((await isla.ask('PUT', '/api/firm', edit)).status).toBe(200)
  expect(await causes()).toEqual(['calendar', 'calendar'])
  expect((await isla.ask('PUT', '/api/firm', edit)).body.error.code).toBe('STALE_VERSION')
})

test('the book is read page by page, each visit once, newest first', async () => {
  const siteId = demoId('site', 'hostel')
  const many = Array.from({ length: 60 }, (_, index) => ({ siteId, systemId: demoId('system', 'hostel'), visitId: uuidv7(), index }))
  const facts = many.flatMap((at) => {
    const instant = new Date(Date.now() - at.index * 60_000).toISOString()
    return [begun(at, { at: instant }), ended(at, { at: instant })]
  })
  await tam.ask('POST', '/api/facts', batch(...facts))
  const seen: string[] = []
  let next: string | null = null
  do {
    const { body } = await tam.ask('GET', `/api/book${next === null ? '' : `?before=${encodeURIComponent(next)}`}`)
    seen.push(...body.visits.map(({ visitId }: { visitId: string }) => visitId))
    next = body.next
  } while (next !== null)
  const [all] = await peek<{ n: string }>(world.database, 'select count(*) as n from fact_visit_begun')
  expect(seen).toHaveLength(Number(all?.n))
  expect(new Set(seen).size).toBe(seen.length)
  expect(seen.slice(0, 60)).toEqual(many.map(({ visitId }) => visitId))
})

test('health needs no sign-in, counters their token, and neither tells anything of anybody', async () => {
  const health = await world.app.request('/api/health')
  expect([health.status, await health.json()]).toEqual([200, { ok: true }])
  const text = await (await world.app.request('/api/metrics', { headers: { authorization: `Bearer ${METRICS_TOKEN}` } })).text()
  expect(text).toMatch(/even_round_requests_total\{method="GET",status="200"\} \d+/)
  expect(text).not.toContain('fennick')
})

test('answers forbid framing and foreign scripts, and carry the request’s id', async () => {
  const response = await world.app.request('/api/health', { headers: { 'x-request-id': 'from-the-edge' } })
  expect(response.headers.get('content-security-policy')).toContain("script-src 'self'")
  expect(response.headers.get('content-security-policy')).toContain("frame-ancestors 'none'")
  expect(response.headers.get('x-request-id')).toBe('from-the-edge')
})
