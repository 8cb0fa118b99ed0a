import { placeText } from '@evenround/core/firm'
import ical, { ICalCalendarMethod } from 'ical-generator'
import { csvText } from '../../csv'
import { instantAt, timeOfDay } from '../../time/zone'
import type { RoadStop } from './road'

/** The road as CSV (RFC 4180): days ISO, times of the firm's zone. A cell that a spreadsheet would run as a formula is quoted. */
export function roadCsv(road: readonly RoadStop[]): string {
  const fields = [
    'day',
    'order',
    'technician',
    'leave',
    'begin',
    'end',
    'drive_min',
    'ferry',
    'promised',
    'site',
    'system',
    'village',
    'island',
    'publication',
    'stop_id',
  ]
  const data = road.map(({ stop, siteName, systemName, village, island, technician }) => [
    stop.day,
    stop.orderNo,
    technician,
    timeOfDay(stop.leaveMin),
    timeOfDay(stop.arriveMin),
    timeOfDay(stop.arriveMin + stop.workMin),
    stop.travelMin,
    stop.ferryAt ?? '',
    stop.promised ? 'yes' : 'no',
    siteName,
    systemName,
    village,
    island,
    stop.publication ?? '',
    stop.id,
  ])
  return csvText(fields, data)
}

/** Sites as points and each day's tour as a line (GeoJSON, RFC 7946); a tour of fewer than two places is a point already. */
export function roadGeoJson(road: readonly RoadStop[]) {
  const seen = new Set<string>()
  const points = road.flatMap(({ stop, siteName, village, island, place }) => {
    if (!place || seen.has(stop.siteId)) return []
    seen.add(stop.siteId)
    return [
      feature(
        { kind: 'site', id: stop.siteId, name: siteName, village, island },
        { type: 'Point' as const, coordinates: [place.lon, place.lat] },
      ),
    ]
  })
  const tours = new Map<string, RoadStop[]>()
  for (const one of road) {
    const key = `${one.stop.day}/${one.stop.technicianId}`
    tours.set(key, [...(tours.get(key) ?? []), one])
  }
  const lines = [...tours.values()].flatMap((stops) => {
    const coordinates = stops.flatMap(({ place }) => (place ? [[place.lon, place.lat]] : []))
    const [first] = stops
    if (!first || coordinates.length < 2) return []
    return [
      feature(
        { kind: 'tour', day: first.stop.day, technician: first.technician, stops: stops.length },
        { type: 'LineString' as const, coordinates },
      ),
    ]
  })
  return { type: 'FeatureCollection' as const, features: [...points, ...lines] }
}

const feature = <P, G>(properties: P, geometry: G) => ({ type: 'Feature' as const, properties, geometry })

/** One person's road as an iCalendar file (RFC 5545): instants in UTC, ids that stay when a stop moves. Access notes are in none of it. */
export function roadCalendar(road: readonly RoadStop[], { name, timeZone, now }: { name: string; timeZone: string; now: Date }): string {
  const calendar = ical({ name, prodId: { company: 'Even Round', product: 'Round', language: 'EN' }, method: ICalCalendarMethod.PUBLISH })
  calendar.ttl(3600)
  for (const { stop, siteName, systemName, village, island } of road) {
    const lines = [
      systemName,
      `drive ${stop.travelMin} min${stop.wayEstimated ? ', estimated' : ''}${stop.ferryAt ? `, ferry ${stop.ferryAt}` : ''}`,
    ]
    if (stop.promiseFrom !== null && stop.promiseTo !== null)
      lines.push(`promised between ${timeOfDay(stop.promiseFrom)} and ${timeOfDay(stop.promiseTo)}`)
    else if (stop.promised) lines.push('promised')
    calendar.createEvent({
      id: `${stop.id}@even-round`,
      sequence: stop.version,
      stamp: now,
      start: instantAt(timeZone, stop.day, stop.arriveMin),
      end: instantAt(timeZone, stop.day, stop.arriveMin + stop.workMin),
      summary: siteName,
      location: placeText({ village, island }),
      description: lines.join('\n'),
    })
  }
  return calendar.toString()
}
