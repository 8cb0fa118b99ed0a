import { HOUSINGS, MEDIA } from '@evenround/core/catalogue'
import { peek, type TestDatabase, testDatabase } from '../testing/database'
import { DEMO_CUSTOMERS } from './customers'
import { DEMO_SITES } from './world'

let database: TestDatabase
beforeAll(async () => {
  database = await testDatabase('demo')
})
afterAll(() => database.drop())

const one = async (sql: string): Promise<number> => Number((await peek<{ n: string }>(database, sql))[0]?.n)

test('some forty customers with about seventy systems, each stage with a part in it and a forecast', async () => {
  const systems = DEMO_SITES.length + DEMO_CUSTOMERS.reduce((sum, { systems }) => sum + systems.length, 0)
  expect(await one('select count(*) as n from site')).toBe(42)
  expect(await one('select count(*) as n from system')).toBe(systems)
  expect(systems).toBeGreaterThanOrEqual(70)
  const blind = await peek<{ name: string; media: string }>(
    database,
    `select site.name from stage s join system y on y.id = s.system_id join site on site.id = y.site_id
     where not exists (select 1 from fact_part_fitted f where f.stage_id = s.id) and s.next_part_id is not null`,
  )
  expect(blind).toEqual([])
  expect(await one('select count(*) as n from stale_stage')).toBe(0)
  expect(await one('select count(*) as n from stage_forecast')).toBeGreaterThan(150)
})

/** What no customer of the scenario has. */
const NOT_HERE = ['sediment-carbon', 'ultrafiltration', 'iron-bed', 'ph-bed', 'chlorine-feed']

test('every medium of the scenario and every housing is met at least twice', async () => {
  const seen = async (field: 'media' | 'housing') => {
    const rows = await peek<{ name: string; n: string }>(
      database,
      `select node->>'${field}' as name, count(*) as n from train_version, jsonb_array_elements(train->'nodes') node
       where node->>'kind' = 'stage' group by 1`,
    )
    return new Map(rows.map(({ name, n }) => [name, Number(n)]))
  }
  const [media, housings] = [await seen('media'), await seen('housing')]
  expect(MEDIA.filter((name) => !NOT_HERE.includes(name) && (media.get(name) ?? 0) < 2)).toEqual([])
  expect(HOUSINGS.filter((name) => (housings.get(name) ?? 0) < 2)).toEqual([])
})

test('the past is three years long, never in the future, and in order', async () => {
  expect(await one(`select count(*) as n from fact_visit_begun where at > test_clock()`)).toBe(0)
  const [span] = await peek<{ days: string }>(database, `select extract(day from max(at) - min(at)) as days from fact_visit_begun`)
  expect(Number(span?.days)).toBeGreaterThan(1050)
  expect(
    await one(`select count(*) as n from fact_visit_finished f join fact_visit_begun b on b.visit_id = f.visit_id where f.at <= b.at`),
  ).toBe(0)
  expect(
    await one(`select count(*) as n from fact_part_removed r where not exists (
      select 1 from fact_part_fitted f where f.stage_id = r.stage_id and f.at < r.at)`),
  ).toBe(0)
})

test('counters of a system never fall, and readings are those of real gauges', async () => {
  expect(
    await one(`select count(*) as n from (
      select counter_l - lag(counter_l) over (partition by system_id order by at) as step from fact_stage_reading where counter_l is not null) s
      where step < 0`),
  ).toBe(0)
  expect(await one('select count(*) as n from fact_stage_reading where in_kpa < out_kpa')).toBe(0)
  expect(await one('select count(*) as n from fact_stage_reading where in_kpa is not null')).toBeGreaterThan(200)
  expect(await one(`select count(*) as n from fact_stage_reading where lamp_hours is not null`)).toBeGreaterThan(10)
})

test('every grade was found somewhere, most parts as they should be; some dirt got past', async () => {
  const grades = await peek<{ found: string; n: string }>(database, 'select found, count(*) as n from fact_part_removed group by found')
  const count = new Map(grades.map(({ found, n }) => [found, Number(n)]))
  expect([...count.keys()].sort()).toEqual(['as-expected', 'as-new', 'heavy', 'light', 'spent'])
  expect(count.get('as-expected')).toBeGreaterThan(count.get('spent') ?? 0)
  expect(await one('select count(*) as n from fact_part_removed where dirt_past')).toBeGreaterThan(0)
})

test('places that close have their weeks in the calendar, in the past and in the year ahead', async () => {
  // And the youth hostel, which is written by hand.
  const closing = DEMO_CUSTOMERS.filter(({ closed }) => closed).length + 1
  expect(await one('select count(distinct site_id) as n from occupancy')).toBe(closing)
  expect(await one('select count(*) as n from occupancy where to_day <= from_day')).toBe(0)
  expect(await one(`select count(distinct site_id) as n from occupancy where to_day > test_clock()::date`)).toBe(closing)
})
