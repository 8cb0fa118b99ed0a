import type { FirmScope, InFirm } from '../../../db/scope'
import { NO_WAY_S, packed } from './book'
import { isAllowed, MOST_POINTS, NoTable, type RoadProblem, type RoadServer } from './table-server'
import { type Wanted, wantedPlaces } from './wanted'

/** Minutes by road this old are asked for again: roads are built, and closed. */
const STALE_DAYS = 30
/** Places that are asked about together, so that each goes with as many others as one question holds. */
const TOGETHER = 40
const OTHERS = MOST_POINTS - TOGETHER
/** Looked at again after so long where all is known. */
const NEXT_LOOK_S = 300
const [FIRST_TRY_S, LAST_TRY_S] = [30, 3600]
/** Further from any road than this is nowhere the server knows. */
const OFF_ROAD_M = 2000

interface Numbered extends Wanted {
  no: number
  /** Was further from any road than the server knows: it is not asked about again with others. */
  offRoad: boolean
}
interface Line {
  no: number
  place: string
  out: number[]
  back: number[]
  offRoad: boolean
}

export interface RoadsDeps {
  inFirm: InFirm
  now: () => Date
  /** Hosts that firms may have asked. */
  hosts: readonly string[]
  serverAt: (address: string) => RoadServer
}

interface Begun {
  address: string
  version: number
  failures: number
  /** What to ask about now, and all there are with their numbers, these included. */
  block: Numbered[]
  all: Numbered[]
  /** How many places of the firm are known, and how many there are. */
  known: number
  places: number
}

/**
 * Asks a firm's routing server about places that are new or were asked about long ago, a few at a time, until all are known or `goOn` says
 * no. Each answer is kept at once. No transaction waits for the server; where it fails, that is written down and it is tried again later,
 * ever more seldom, while what is known stays in use. How many places were asked about.
 */
export async function refreshRoads({ inFirm, now, hosts, serverAt }: RoadsDeps, firmId: string, goOn: () => boolean): Promise<number> {
  let asked = 0
  while (goOn()) {
    const begun = await inFirm(firmId, (scope) => beginRefresh(scope, now()))
    if (begun === null || begun.block.length === 0) break
    const { address, version, failures, block, all } = begun
    try {
      if (!isAllowed(address, hosts)) throw new NoTable({ kind: 'not-allowed' })
      const lines = await linesOf(serverAt(address), block, all)
      await inFirm(firmId, (scope) => keep(scope, version, lines, begun, now()))
      asked += block.length
    } catch (error) {
      if (!(error instanceof NoTable)) throw error
      await inFirm(firmId, (scope) => writeFailure(scope, version, error.problem, failures, now()))
      break
    }
  }
  return asked
}

async function beginRefresh(scope: FirmScope, now: Date): Promise<Begun | null> {
  const [server] = await scope.query<{ address: string; version: number; failures: number }>(
    'select address, version, failures from road_server where firm_id = $1',
  )
  if (!server) return null
  const wanted = await wantedPlaces(scope)
  const rows = await scope.query<{ no: number; place: string; made_at: Date; off_road: boolean }>(
    'select no, place, made_at, off_road from road_row where firm_id = $1 order by made_at, no',
  )
  const byPlace = new Map(wanted.map((one) => [one.place, one]))
  const gone = rows.filter(({ place }) => !byPlace.has(place))
  const last = Math.max(-1, ...rows.map(({ no }) => no))
  // Numbers of places that have gone are never given out again; once most are of those, it is begun anew.
  const anew = last > 2 * wanted.length + 200
  if (gone.length > 0 || anew)
    await scope.query('delete from road_row where firm_id = $1 and (no = any($2) or $3)', [gone.map(({ no }) => no), anew])
  const kept = anew ? [] : rows.filter(({ place }) => byPlace.has(place))
  const known = new Set(kept.map(({ place }) => place))
  const numbered = kept.map(({ no, place, off_road }): Numbered => ({ no, offRoad: off_road, ...(byPlace.get(place) as Wanted) }))
  const fresh = wanted
    .filter(({ place }) => !known.has(place))
    .slice(0, TOGETHER)
    .map((one, index): Numbered => ({ no: (anew ? -1 : last) + 1 + index, offRoad: false, ...one }))
  const staleBefore = now.getTime() - STALE_DAYS * 86_400_000
  const stale = kept.filter(({ made_at }) => made_at.getTime() < staleBefore).slice(0, TOGETHER)
  const block = fresh.length > 0 ? fresh : numbered.filter(({ no }) => stale.some((one) => one.no === no))
  if (block.length === 0)
    await scope.query(
      `update road_server set places = $2, known = $3, failures = 0, problem = null, next_at = $4::timestamptz + make_interval(secs => ${NEXT_LOOK_S})
       where firm_id = $1`,
      [wanted.length, numbered.length, now],
    )
  return { ...server, block, all: [...numbered, ...fresh], known: numbered.length, places: wanted.length }
}

/**
 * The lines of these places. Where the server refuses them, those it has no road near are found out and written down as such, and the others
 * are asked about without them.
 */
async function linesOf(server: RoadServer, block: readonly Numbered[], all: readonly Numbered[]): Promise<Line[]> {
  try {
    return await linesAmong(server, block, all)
  } catch (error) {
    if (!isBadRequest(error)) throw error
    const sound = new Set((await onRoads(server, block)).map(({ no }) => no))
    const off = block.filter(({ no }) => !sound.has(no))
    if (off.length === 0) throw error
    const isOff = new Set(off.map(({ no }) => no))
    const rest = block.filter(({ no }) => sound.has(no))
    const lines =
      rest.length === 0
        ? []
        : await linesAmong(
            server,
            rest,
            all.filter(({ no }) => !isOff.has(no)),
          )
    return [...lines, ...off.map(({ no, place }): Line => ({ no, place, out: [], back: [], offRoad: true }))]
  }
}

/** The lines of these places against every place with a smaller number, asked for in as many questions as it takes. */
async function linesAmong(server: RoadServer, block: readonly Numbered[], all: readonly Numbered[]): Promise<Line[]> {
  const lines = block.map((one): Line => ({ no: one.no, place: one.place, out: [], back: [], offRoad: false }))
  const lineOf = new Map(lines.map((line) => [line.no, line]))
  const others = all.filter(({ no, offRoad }) => !lineOf.has(no) && !offRoad)
  const note = (from: Numbered, to: Numbered, seconds: number | null): void => {
    const whole = seconds === null ? NO_WAY_S : Math.min(NO_WAY_S - 1, Math.round(seconds))
    if (from.no > to.no) put(lineOf.get(from.no)?.out, to.no, whole)
    else put(lineOf.get(to.no)?.back, from.no, whole)
  }
  for (let at = 0; at === 0 || at < others.length; at += OTHERS) {
    const points = [...block, ...others.slice(at, at + OTHERS)]
    const { seconds, offRoadM } = await server.table(points)
    points.forEach((from, a) => {
      const offRoad = (offRoadM[a] as number) > OFF_ROAD_M
      const line = lineOf.get(from.no)
      if (line && offRoad) line.offRoad = true
      points.forEach((to, b) => {
        if (a === b) return
        // What lies far from any road it knows has ways that begin somewhere else.
        note(from, to, offRoad || (offRoadM[b] as number) > OFF_ROAD_M ? null : (seconds[a]?.[b] ?? null))
      })
    })
  }
  return lines
}

/** What an engine answers with that knows no road near one of the points: it then says nothing about the others either. */
const BAD_REQUEST = 400
const isBadRequest = (error: unknown): boolean =>
  error instanceof NoTable && error.problem.kind === 'refused' && error.problem.status === BAD_REQUEST

/** Those of some places that the server has a road near. Only where it refuses them together are halves of them asked about. */
async function onRoads(server: RoadServer, places: readonly Numbered[]): Promise<Numbered[]> {
  try {
    await server.table(places)
    return [...places]
  } catch (error) {
    if (!isBadRequest(error)) throw error
    if (places.length < 2) return []
    const half = places.length >> 1
    return [...(await onRoads(server, places.slice(0, half))), ...(await onRoads(server, places.slice(half)))]
  }
}

/** Writes at a number, with nothing known before it. */
function put(seconds: number[] | undefined, no: number, value: number): void {
  if (!seconds) return
  while (seconds.length < no) seconds.push(NO_WAY_S)
  seconds[no] = value
}

/** Keeps lines, unless the address was changed meanwhile. What a line knew of others that were not asked about stays. */
async function keep(scope: FirmScope, version: number, lines: readonly Line[], { known, places }: Begun, now: Date): Promise<void> {
  const [server] = await scope.query<{ version: number }>('select version from road_server where firm_id = $1 for update')
  if (server?.version !== version) return
  for (const { no, place, out, back, offRoad } of lines)
    await scope.query(
      `insert into road_row (firm_id, no, place, out_s, back_s, off_road, made_at) values ($1, $2, $3, $4, $5, $6, $7)
       on conflict (firm_id, no) do update set out_s = excluded.out_s, back_s = excluded.back_s, off_road = excluded.off_road, made_at = excluded.made_at`,
      [no, place, packed(out), packed(back), offRoad, now],
    )
  const [{ off = 0, rows = known } = {}] = await scope.query<{ off: number; rows: number }>(
    'select count(*) filter (where off_road)::int as off, count(*)::int as rows from road_row where firm_id = $1',
  )
  await scope.query(
    `update road_server set asked_at = $2, answered_at = $2, failures = 0, problem = null, places = $3, known = $4, off_road = $5, next_at = $2
     where firm_id = $1`,
    [now, places, rows, off],
  )
}

/** The next try: after half a minute, then twice as long each time, at most an hour. */
export const nextTryS = (failures: number): number => Math.min(LAST_TRY_S, FIRST_TRY_S * 2 ** Math.min(20, failures))

const writeFailure = (scope: FirmScope, version: number, problem: RoadProblem, failures: number, now: Date): Promise<unknown> =>
  scope.query(
    `update road_server set asked_at = $2, failures = failures + 1, problem = $3, next_at = $2::timestamptz + make_interval(secs => $4)
     where firm_id = $1 and version = $5`,
    [now, JSON.stringify(problem), nextTryS(failures), version],
  )
