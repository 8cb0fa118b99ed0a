import { addDays } from '@evenround/core/units'
import { v7 as uuidv7 } from 'uuid'
import { demoId } from '../../demo/ids'
import { freshRoundOf, roundOf } from '../../testing/round'
import { openWorld, type Person, type World } from '../../testing/world'
import { holidaysOf } from './holidays'

let world: World
let isla: Person
let tam: Person
/** The firm's day, near enough for days that lie weeks ahead. */
const today = (): string => world.clock.now.toISOString().slice(0, 10)
beforeAll(async () => {
  world = await openWorld('demo')
  isla = await world.signIn('isla@fennick.example')
  tam = await world.signIn('tam@fennick.example')
})
afterAll(() => world.close())

const CALENDAR = (...events: string[]): string =>
  ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//x//y//EN', ...events, 'END:VCALENDAR'].join('\r\n')
const event = (...lines: string[]): string => ['BEGIN:VEVENT', 'UID:a', ...lines, 'END:VEVENT'].join('\r\n')

describe('holidays out of a calendar file', () => {
  test('whole days, with their last day inside; what comes every year is written out; an appointment is no holiday', () => {
    const text = CALENDAR(
      event('DTSTART;VALUE=DATE:20261224', 'DTEND;VALUE=DATE:20261227', 'SUMMARY:Midwinter'),
      event('DTSTART;VALUE=DATE:20250501', 'RRULE:FREQ=YEARLY', 'SUMMARY:Boat day'),
      event('DTSTART:20261201T090000Z', 'DTEND:20261201T100000Z', 'SUMMARY:Dentist'),
    )
    const found = holidaysOf(text, '2026-11-25')
    expect(found[0]).toEqual({ fromDay: '2026-12-24', toDay: '2026-12-26', why: 'Midwinter' })
    const boats = found.filter(({ why }) => why === 'Boat day').map(({ fromDay }) => fromDay)
    expect(boats.slice(0, 2)).toEqual(['2027-05-01', '2028-05-01'])
    expect(found.some(({ why }) => why === 'Dentist')).toBe(false)
  })
  test('anything else is refused with the reason', () => {
    expect(() => holidaysOf('name,day\nx,y', '2026-11-25')).toThrow()
    expect(() => holidaysOf('BEGIN:VCARD\r\nEND:VCARD', '2026-11-25')).toThrow()
  })
  test('brought in for the firm, nobody works then; brought in twice nothing is there twice', async () => {
    const day = (await roundOf(isla)).set.days[4] as string
    const text = CALENDAR(event(`DTSTART;VALUE=DATE:${day.replaceAll('-', '')}`, 'SUMMARY:Regatta'))
    expect((await isla.ask('POST', '/api/times/holidays', { text, personId: null })).body).toEqual({ added: 1, known: 0 })
    expect((await isla.ask('POST', '/api/times/holidays', { text, personId: null })).body).toEqual({ added: 0, known: 1 })
    expect((await freshRoundOf(isla)).set.days).not.toContain(day)
    const refused = await isla.ask('POST', '/api/times/holidays', { text: 'no calendar', personId: null })
    expect([refused.status, refused.body.error.fields[0].path]).toEqual([400, 'text'])
  })
})

describe('working times', () => {
  test('a base by its coordinates is there to start from, and the same id again moves it', async () => {
    const id = uuidv7()
    const put = (person: Person, base: object) => person.ask('PUT', `/api/times/places/${id}`, base)
    expect((await put(tam, { name: 'Yard', lat: 58.3, lon: -21.6 })).body.error.code).toBe('NO_RIGHT')
    const added = await put(isla, { name: 'Yard', lat: 58.3, lon: -21.6 })
    expect(added.body.places).toContainEqual({ id, name: 'Yard', island: '', lat: 58.3, lon: -21.6 })
    const moved = await put(isla, { name: 'Yard', lat: 58.4, lon: -21.6 })
    expect(moved.body.places.filter((place: { id: string }) => place.id === id)).toEqual([
      { id, name: 'Yard', island: '', lat: 58.4, lon: -21.6 },
    ])
    expect((await put(isla, { name: 'Yard', lat: 98, lon: 0 })).body.error.fields[0].path).toBe('lat')
  })
  const TAM = demoId('person', 'tam')
  test('a changed week changes the days of the round; an old version is refused with what stands', async () => {
    const { people } = (await isla.ask('GET', '/api/times')).body
    const own = people.find(({ personId }: { personId: string }) => personId === TAM)
    const { personId: _, name: __, van: ___, skills: ____, ...times } = own
    const answer = await isla.ask('PUT', `/api/times/people/${TAM}`, { ...times, weekdays: [2, 3, 4, 5], toMin: 900 })
    expect(answer.body).toMatchObject({ weekdays: [2, 3, 4, 5], toMin: 900, version: own.version + 1 })
    const { set } = await freshRoundOf(isla)
    const there = set.technicians.find(({ id }: { id: string }) => id === TAM)
    const friday = set.days.findIndex((day: string) => new Date(`${day}T12:00:00Z`).getUTCDay() === 5)
    expect(there?.toMin).toBe(900)
    expect(there?.daysOff).not.toContain(friday)
    const stale = await isla.ask('PUT', `/api/times/people/${TAM}`, { ...times, weekdays: [1] })
    expect([stale.status, stale.body.error.current.version]).toEqual([409, own.version + 1])
  })
  test('bad times are named at their place; a technician changes nobody’s but may say they are ill', async () => {
    const times = { base: 'nowhere', weekdays: [1], fromMin: 600, toMin: 500, overtimeMin: 0, vanKg: null, version: 1 }
    expect((await isla.ask('PUT', `/api/times/people/${TAM}`, times)).body.error.fields[0].path).toBe('toMin')
    expect((await isla.ask('PUT', `/api/times/people/${TAM}`, { ...times, toMin: 700 })).body.error.fields[0].path).toBe('base')
    expect((await tam.ask('PUT', `/api/times/people/${TAM}`, { ...times, base: null, toMin: 700 })).body.error.code).toBe('NO_RIGHT')
    const ill = { id: uuidv7(), personId: TAM, fromDay: addDays(today(), 41), toDay: addDays(today(), 41), why: '', source: 'sick' }
    expect((await tam.ask('POST', '/api/times/days-off', ill)).status).toBe(200)
    expect((await tam.ask('POST', '/api/times/days-off', { ...ill, id: uuidv7(), personId: null })).body.error.code).toBe('NO_RIGHT')
    expect((await tam.ask('DELETE', `/api/times/days-off/${ill.id}`)).body.daysOff).toEqual(
      expect.not.arrayContaining([expect.objectContaining({ id: ill.id })]),
    )
  })
})

test('a site’s hours and closings: kept, in the round, and back out of it', async () => {
  const site = demoId('site', 'kelp-press')
  const before = (await isla.ask('GET', `/api/sites/${site}/hours`)).body
  const [fromDay, toDay] = [addDays(today(), 40), addDays(today(), 56)] as const
  const closing = { id: uuidv7(), fromDay, toDay }
  const edit = {
    open: [
      [540, 720],
      [780, 960],
    ],
    closedWeekdays: [4],
    accessMin: 15,
    closings: [closing],
    version: before.version,
  }
  const saved = await isla.ask('PUT', `/api/sites/${site}/hours`, edit)
  expect(saved.body).toMatchObject({ ...edit, version: before.version + 1 })
  const { set } = await freshRoundOf(isla)
  const visit = set.visits.find(({ siteId }: { siteId: string }) => siteId === site)
  if (visit) {
    expect(visit.open).toEqual(edit.open)
    for (const [day, iso] of (set.days as string[]).entries())
      expect(visit.closedDays.includes(day)).toBe(new Date(`${iso}T12:00:00Z`).getUTCDay() === 4 || (iso >= fromDay && iso < toDay))
  }
  const crossed = await isla.ask('PUT', `/api/sites/${site}/hours`, {
    ...edit,
    version: before.version + 1,
    open: [
      [540, 720],
      [700, 960],
    ],
  })
  expect(crossed.body.error.fields[0].path).toBe('open[1]')
  const gone = await isla.ask('PUT', `/api/sites/${site}/hours`, { ...edit, version: before.version + 1, closings: [] })
  expect(gone.body.closings).toEqual([])
})
