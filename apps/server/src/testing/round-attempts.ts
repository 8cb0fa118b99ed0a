import { v7 as uuidv7 } from 'uuid'
import { roundOf } from './round'
import type { Person } from './world'

/** A firm's round, as another firm could reach for it. */
export interface TheirRound {
  setId: string
  visitId: string
  markId: string
  dayOffId: string
  runId: string
  yearId: string
  day: string
}

/** A round of the first firm with everything in it that another could reach for. */
export async function theirRound(isla: Person): Promise<TheirRound> {
  const { set, draft } = await roundOf(isla)
  const [markId, dayOffId, runId, yearId] = [uuidv7(), uuidv7(), uuidv7(), uuidv7()]
  const visitId = set.visits[0]?.id ?? ''
  const day = set.days[3] as string
  await isla.ask('POST', '/api/round/publications', { version: draft.version })
  await isla.ask('POST', '/api/round/marks', { id: markId, visitId, kind: 'forbid', day })
  await isla.ask('POST', '/api/times/days-off', { id: dayOffId, personId: null, fromDay: day, toDay: day, why: 'fair', source: 'typed' })
  await isla.ask('POST', '/api/round/runs', { id: runId, setId: set.id })
  await isla.ask('POST', '/api/feed')
  await isla.ask('POST', '/api/year/plans', { id: yearId, kind: 'even' })
  return { setId: set.id, visitId, markId, dayOffId, runId, yearId, day }
}

interface Theirs {
  personId: string
  siteId: string
  systemId: string
  round: TheirRound
}

/** For every route of the round, of times and of the van: the path with the other firm's ids, and a body in the right form. */
export const roundAttempts = ({
  personId,
  siteId,
  systemId,
  round,
}: Theirs): Record<string, { path: string; input?: unknown; status: number }> => ({
  'GET /api/round': { path: '/api/round', status: 200 },
  'GET /api/round/week': { path: '/api/round/week', status: 200 },
  'POST /api/round/open': { path: '/api/round/open', status: 200 },
  'GET /api/round/sets/{id}': { path: `/api/round/sets/${round.setId}`, status: 404 },
  'POST /api/round/fresh': { path: '/api/round/fresh', status: 200 },
  'POST /api/round/moves': {
    path: '/api/round/moves',
    input: { setId: round.setId, visitId: round.visitId, from: null, to: null },
    status: 409,
  },
  'PUT /api/round/draft': { path: '/api/round/draft', input: { version: 1, setId: round.setId, days: [] }, status: 409 },
  'POST /api/round/marks': {
    path: '/api/round/marks',
    input: { id: uuidv7(), visitId: round.visitId, kind: 'pin', day: round.day },
    status: 400,
  },
  'DELETE /api/round/marks/{id}': { path: `/api/round/marks/${round.markId}`, status: 404 },
  'POST /api/round/today/spots': { path: '/api/round/today/spots', input: { systemId, workMin: 30 }, status: 404 },
  'POST /api/round/today': {
    path: '/api/round/today',
    input: { id: uuidv7(), systemId, workMin: 30, technicianId: personId, at: 0, why: 'no water', tasks: [] },
    status: 404,
  },
  'POST /api/round/extras': {
    path: '/api/round/extras',
    input: { id: uuidv7(), systemId: systemId, workMin: 30, fromDay: round.day, toDay: round.day, why: 'spy', tasks: [] },
    status: 400,
  },
  'POST /api/round/publications': { path: '/api/round/publications', input: { version: 400 }, status: 409 },
  'GET /api/round/publications': { path: '/api/round/publications', status: 200 },
  'GET /api/round/publications/{number}/changes': { path: '/api/round/publications/1/changes', status: 404 },
  'GET /api/round/changes': { path: '/api/round/changes', status: 200 },
  'GET /api/round/map': { path: '/api/round/map', status: 200 },
  'GET /api/year': { path: '/api/year', status: 200 },
  'POST /api/year/plans': {
    path: '/api/year/plans',
    input: { id: uuidv7(), kind: 'move', planId: round.yearId, chains: ['x'], from: round.day, to: round.day },
    status: 404,
  },
  'GET /api/year/work': { path: '/api/year/work', status: 200 },
  'POST /api/year/plans/{id}/apply': { path: `/api/year/plans/${round.yearId}/apply`, status: 404 },
  'POST /api/year/plans/{id}/undo': { path: `/api/year/plans/${round.yearId}/undo`, status: 409 },
  'POST /api/year/plans/{id}/discard': { path: `/api/year/plans/${round.yearId}/discard`, status: 404 },
  'PUT /api/round/terms': {
    path: '/api/round/terms',
    input: { hourMinor: 1, accessMin: 1, setupMin: 1, unevenness: 1, change: 1 },
    status: 200,
  },
  'POST /api/round/runs': { path: '/api/round/runs', input: { id: uuidv7(), setId: round.setId }, status: 400 },
  'GET /api/round/runs/{id}': { path: `/api/round/runs/${round.runId}`, status: 404 },
  'POST /api/round/runs/{id}/take': { path: `/api/round/runs/${round.runId}/take`, input: { version: 1 }, status: 404 },
  'POST /api/round/runs/{id}/discard': { path: `/api/round/runs/${round.runId}/discard`, status: 404 },
  'POST /api/round/runs/{id}/cancel': { path: `/api/round/runs/${round.runId}/cancel`, status: 404 },
  'GET /api/round.csv': { path: '/api/round.csv', status: 200 },
  'GET /api/round.geojson': { path: '/api/round.geojson', status: 200 },
  'GET /api/round.ics': { path: '/api/round.ics', status: 200 },
  'POST /api/feed': { path: '/api/feed', status: 200 },
  'DELETE /api/feed': { path: '/api/feed', status: 200 },
  'GET /api/times': { path: '/api/times', status: 200 },
  'PUT /api/times/people/{id}': {
    path: `/api/times/people/${personId}`,
    input: { base: null, weekdays: [1], fromMin: 1, toMin: 2, overtimeMin: 0, vanKg: null, version: 1 },
    status: 404,
  },
  'GET /api/times/crossings': { path: '/api/times/crossings', status: 200 },
  'PUT /api/times/crossings/{id}': {
    path: `/api/times/crossings/${personId}`,
    input: {
      kind: 'bridge',
      name: 'x',
      from: { area: 'a', lat: 0, lon: 0 },
      to: { area: 'b', lat: 0, lon: 1 },
      minutes: 1,
      boardMin: 0,
      departures: [],
      returns: [],
      open: [],
      version: 1,
    },
    status: 409,
  },
  'GET /api/times/ways': { path: '/api/times/ways', status: 200 },
  'PUT /api/times/road-server': { path: '/api/times/road-server', input: { address: null, version: 0 }, status: 200 },
  'POST /api/times/road-server/ask': { path: '/api/times/road-server/ask', status: 200 },
  'DELETE /api/times/crossings/{id}': { path: `/api/times/crossings/${personId}`, status: 404 },
  'PUT /api/times/places/{id}': {
    path: '/api/times/places/01a2274b-c65f-740d-8298-c2d18adb1884',
    input: { name: 'Yard', lat: 1, lon: 1 },
    status: 200,
  },
  'POST /api/times/days-off': {
    path: '/api/times/days-off',
    input: { id: uuidv7(), personId, fromDay: round.day, toDay: round.day, why: '', source: 'sick' },
    status: 400,
  },
  'DELETE /api/times/days-off/{id}': { path: `/api/times/days-off/${round.dayOffId}`, status: 404 },
  'POST /api/times/holidays': { path: '/api/times/holidays', input: { text: 'BEGIN:VCALENDAR\nEND:VCALENDAR', personId }, status: 400 },
  'GET /api/sites/{id}/hours': { path: `/api/sites/${siteId}/hours`, status: 404 },
  'PUT /api/sites/{id}/hours': {
    path: `/api/sites/${siteId}/hours`,
    input: { open: [], closedWeekdays: [1], accessMin: null, closings: [], version: 1 },
    status: 404,
  },
  'GET /api/van': { path: '/api/van', status: 200 },
  'PUT /api/van/ticks': { path: '/api/van/ticks', input: { day: round.day, key: 'TDS meter', state: 'loaded' }, status: 200 },
})
