import type { BookDto, LifeDto } from '@evenround/contract/book'
import Papa from 'papaparse'
import { demoId } from '../demo/ids'
import { DEMO_FIRM_ID } from '../demo/load'
import { openWorld, type Person, type World } from '../testing/world'
import { dayIn } from '../time/zone'

let world: World
let isla: Person
let tam: Person
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(() => world.close())

const ZONE = 'Atlantic/Azores'
async function whole(query: Record<string, string> = {}): Promise<BookDto['visits']> {
  const visits: BookDto['visits'] = []
  let before: string | null = null
  do {
    const search = new URLSearchParams({ ...query, ...(before === null ? {} : { before }) })
    const page: BookDto = (await isla.ask('GET', `/api/book?${search}`)).body
    visits.push(...page.visits)
    before = page.next
  } while (before !== null)
  return visits
}
const idsOf = (visits: BookDto['visits']): string[] => visits.map(({ visitId }) => visitId)

test('each filter leaves what it asks for and nothing else, over all pages', async () => {
  const all = await whole()
  expect(all.length).toBeGreaterThan(60)
  const byTam = all.filter(({ personName }) => personName === 'Tam Orrin')
  expect(idsOf(await whole({ person: demoId('person', 'tam') }))).toEqual(idsOf(byTam))
  const named = all.filter(({ siteName }) => siteName.toLowerCase().includes('net lo'))
  expect(named.length).toBeGreaterThan(0)
  expect(idsOf(await whole({ text: 'NET LO' }))).toEqual(idsOf(named))
  const sediment = all.filter(({ fitted }) => fitted.some((part) => part.includes('SED-10')))
  expect(idsOf(await whole({ text: 'sed-10' }))).toEqual(idsOf(sediment))
  const done = all.filter(({ outcome }) => outcome === 'done')
  expect(idsOf(await whole({ outcome: 'done' }))).toEqual(idsOf(done))
  expect(await whole({ text: '%' })).toEqual([])
})

test('days are the firm’s, the last one with it', async () => {
  const all = await whole()
  const days = all.map(({ begunAt }) => dayIn(ZONE, new Date(begunAt)))
  const [to, from] = [days[5] as string, days[40] as string]
  const meant = all.filter((_, index) => (days[index] as string) >= from && (days[index] as string) <= to)
  expect(idsOf(await whole({ from, to }))).toEqual(idsOf(meant))
  expect((await isla.ask('GET', '/api/book?from=2026-02-30')).status).toBe(400)
})

test('with photos alone, and their number', async () => {
  const [visit] = await whole({ text: 'net loft' })
  expect(visit?.photos).toBe(0)
  expect(await whole({ photos: 'yes' })).toEqual([])
  await world.source.transaction(async (manager) => {
    await manager.query(`select set_config('app.firm_id', '${DEMO_FIRM_ID}', true)`)
    await manager.query(
      `insert into photo (firm_id, id, site_id, visit_id, stage_id, person_id, taken_at, arrived_at, width, height)
       select firm_id, gen_random_uuid(), site_id, visit_id, stage_id, person_id, at, at, 2, 2 from fact_part_fitted where visit_id = $1 limit 1`,
      [visit?.visitId],
    )
  })
  expect((await whole({ photos: 'yes' })).map(({ visitId, photos }) => [visitId, photos])).toEqual([[visit?.visitId, 1]])
})

test('the same as CSV, for whoever may export', async () => {
  const answer = await isla.ask('GET', '/api/book.csv?text=net%20loft')
  const { data, errors } = Papa.parse<Record<string, string>>(answer.text.replace(/^\uFEFF/, ''), { header: true, skipEmptyLines: true })
  expect(errors).toEqual([])
  expect(data.map(({ visit_id }) => visit_id)).toEqual(idsOf(await whole({ text: 'net loft' })))
  expect(data[0]).toMatchObject({ site: 'Net loft cottage', outcome: 'done' })
  expect((await tam.ask('GET', '/api/book.csv')).status).toBe(403)
})

test('a site’s whole past stands on one line of time, newest first, in words', async () => {
  const life = (await tam.ask('GET', `/api/sites/${demoId('site', 'weaving-mill')}/life`)).body as LifeDto
  expect(life.siteName).toBe('Weaving mill')
  const times = life.lines.map(({ at }) => Date.parse(at))
  expect(times).toEqual([...times].sort((a, b) => b - a))
  expect(new Set(life.lines.map(({ kind }) => kind))).toEqual(new Set(['visit', 'reading', 'part', 'hold', 'disinfection']))
  expect(life.lines.map(({ text }) => text)).toEqual(
    expect.arrayContaining([
      expect.stringMatching(/^Laboratory’s report .*: total coliforms present/),
      'Hold: Boiled or bottled water until the laboratory finds no coliforms.',
    ]),
  )
  expect(life.lines.map(({ text }) => text).filter((text) => /undefined|null|\[object/.test(text))).toEqual([])
})
