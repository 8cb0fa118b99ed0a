import ICAL from 'ical.js'
import Papa from 'papaparse'
import type { Stop } from '../../db/entities/master'
import { roadCalendar, roadCsv, roadGeoJson } from './formats'
import type { RoadStop } from './road'

const road = (id: string, more: Partial<Stop> = {}, names: Partial<RoadStop> = {}): RoadStop => ({
  stop: {
    id,
    siteId: `site-${id}`,
    day: '2026-12-03',
    orderNo: 1,
    technicianId: 'tam',
    leaveMin: 485,
    arriveMin: 500,
    workMin: 45,
    travelMin: 15,
    ferryAt: null,
    promised: false,
    promiseFrom: null,
    promiseTo: null,
    version: 3,
    publication: 2,
    ...more,
  } as Stop,
  siteName: 'Net loft cottage',
  village: 'Quay',
  island: 'Thrawn',
  systemName: 'Kitchen',
  technician: 'Tam Orrin',
  place: { lon: -21.6, lat: 58.3 },
  ...names,
})
const eventsOf = (text: string) =>
  new ICAL.Component(ICAL.parse(text) as never).getAllSubcomponents('vevent').map((one) => new ICAL.Event(one))
const ABOUT = { name: 'Tam Orrin: round', timeZone: 'Atlantic/Azores', now: new Date('2026-11-25T10:00:00Z') }

describe('the calendar', () => {
  test('instants of the firm’s zone, an id that stays, a count that rises with every change', () => {
    const [event] = eventsOf(roadCalendar([road('a')], ABOUT))
    // In winter the islands are an hour behind: 08:20 is 09:20 UTC.
    expect(event?.startDate.toJSDate().toISOString()).toBe('2026-12-03T09:20:00.000Z')
    expect(event?.endDate.toJSDate().toISOString()).toBe('2026-12-03T10:05:00.000Z')
    expect([event?.uid, event?.sequence, event?.summary, event?.location]).toEqual(['a@even-round', 3, 'Net loft cottage', 'Quay, Thrawn'])
  })
  test('in summer the clocks are an hour on, and eight twenty stays eight twenty', () => {
    const [event] = eventsOf(roadCalendar([road('a', { day: '2026-07-02' })], ABOUT))
    expect(event?.startDate.toJSDate().toISOString()).toBe('2026-07-02T08:20:00.000Z')
  })
  test('a promise and a ferry are told; signs that mean something to the format come back as they were', () => {
    const strange = road(
      'a',
      { promised: true, promiseFrom: 600, promiseTo: 660, ferryAt: '08:30' },
      { siteName: 'Kelp; press, \\ north\nside' },
    )
    const [event] = eventsOf(roadCalendar([strange], ABOUT))
    expect(event?.summary).toBe('Kelp; press, \\ north\nside')
    expect(event?.description).toContain('promised between 10:00 and 11:00')
    expect(event?.description).toContain('ferry 08:30')
  })
  test('no stops are a calendar without events; lines are no longer than the format allows', () => {
    expect(eventsOf(roadCalendar([], ABOUT))).toEqual([])
    const text = roadCalendar([road('a', {}, { siteName: 'x'.repeat(300) })], ABOUT)
    for (const line of text.split('\r\n')) expect(Buffer.byteLength(line)).toBeLessThanOrEqual(75)
  })
})

describe('the table', () => {
  const rowsOf = (text: string) =>
    Papa.parse<Record<string, string>>(text.replace('\uFEFF', ''), { header: true, skipEmptyLines: true }).data
  test('one row a stop, in plain figures', () => {
    const [row] = rowsOf(roadCsv([road('a', { ferryAt: '11:50', promised: true })]))
    expect(row).toMatchObject({
      day: '2026-12-03',
      technician: 'Tam Orrin',
      leave: '08:05',
      begin: '08:20',
      end: '09:05',
      drive_min: '15',
      ferry: '11:50',
      promised: 'yes',
      publication: '2',
      stop_id: 'a',
    })
  })
  test('a name that a spreadsheet would run is quoted, and commas and line ends stay in their cell', () => {
    const rows = rowsOf(roadCsv([road('a', {}, { siteName: '=1+1' }), road('b', {}, { siteName: 'Quay, "the" loft\nback' })]))
    expect(rows[0]?.site).toBe("'=1+1")
    expect(rows[1]?.site).toBe('Quay, "the" loft\nback')
    expect(rowsOf(roadCsv([]))).toEqual([])
  })
})

describe('the map', () => {
  test('sites once, a day’s tour as a line in order; a place nobody knows is left out', () => {
    const stops = [
      road('a', { orderNo: 1 }),
      road('b', { orderNo: 2 }, { place: { lon: -21.5, lat: 58.2 } }),
      road('c', { orderNo: 3 }, { place: null }),
      { ...road('d', { day: '2026-12-10', siteId: 'site-a' }) },
    ]
    const { features } = roadGeoJson(stops)
    const points = features.filter(({ geometry }) => geometry.type === 'Point')
    const lines = features.filter(({ geometry }) => geometry.type === 'LineString')
    expect(points).toHaveLength(2)
    expect(lines).toHaveLength(1)
    expect(lines[0]?.geometry.coordinates).toEqual([
      [-21.6, 58.3],
      [-21.5, 58.2],
    ])
    expect(lines[0]?.properties).toMatchObject({ day: '2026-12-03', technician: 'Tam Orrin' })
  })
})
