import { kmBetween, type Position } from '@evenround/core/units'
import { z } from 'zod'

/** Why a routing server gave no table. */
export type RoadProblem =
  | { kind: 'not-allowed' | 'absent' | 'slow' | 'no-table' }
  | { kind: 'refused'; status: number }
  | { kind: 'too-quick'; km: number; minutes: number }

export class NoTable extends Error {
  constructor(readonly problem: RoadProblem) {
    super(problem.kind)
  }
}

/** Seconds by road among some points; null where no road leads. */
export interface RoadTable {
  seconds: (number | null)[][]
  /** How far each point is from the nearest road that is known, metres. */
  offRoadM: number[]
}

/** Whoever is asked for minutes by road: a table among at most `MOST_POINTS` points. */
export interface RoadServer {
  table: (points: readonly Position[]) => Promise<RoadTable>
}

/** Points of one question: as many as common routing engines answer about where nobody allowed more. */
export const MOST_POINTS = 90

const MOST_BYTES = 4 * 1024 * 1024
const answerSchema = z.object({
  code: z.literal('Ok'),
  durations: z.array(z.array(z.number().min(0).nullable())),
  sources: z.array(z.object({ distance: z.number().min(0).optional() })).optional(),
})

/** Faster than any van: what answers so has mistaken its units, its axes or its place on the earth. */
const [MOST_KMH, LEAST_KM] = [160, 5]

/**
 * A routing server by the open table interface: `GET …/table/v1/driving/lon,lat;lon,lat…`, seconds among all of them. Nothing it answers is
 * believed unseen: not a table of that size, or ways quicker than a van can drive, are said and thrown away.
 */
export function tableServer(address: string, { mostMs = 20_000, ask = fetch }: { mostMs?: number; ask?: typeof fetch } = {}): RoadServer {
  return {
    table: async (points) => {
      const where = points.map(({ lon, lat }) => `${lon.toFixed(5)},${lat.toFixed(5)}`).join(';')
      const answered = answerSchema.safeParse(await jsonOf(ask, `${address}/table/v1/driving/${where}?annotations=duration`, mostMs))
      const size = points.length
      if (!answered.success) throw new NoTable({ kind: 'no-table' })
      const { durations: seconds, sources } = answered.data
      if (seconds.length !== size || seconds.some((row) => row.length !== size)) throw new NoTable({ kind: 'no-table' })
      refuseTooQuick(points, seconds)
      return { seconds, offRoadM: points.map((_, at) => sources?.[at]?.distance ?? 0) }
    },
  }
}

async function jsonOf(ask: typeof fetch, url: string, mostMs: number): Promise<unknown> {
  try {
    // An address that sends on to another one was not allowed to.
    const response = await ask(url, { redirect: 'manual', signal: AbortSignal.timeout(mostMs), headers: { accept: 'application/json' } })
    if (response.status !== 200) throw new NoTable({ kind: 'refused', status: response.status })
    return JSON.parse(await textOf(response))
  } catch (error) {
    if (error instanceof NoTable) throw error
    if (error instanceof SyntaxError) throw new NoTable({ kind: 'no-table' })
    throw new NoTable({ kind: Reflect.get(Object(error), 'name') === 'TimeoutError' ? 'slow' : 'absent' })
  }
}

/** The text of an answer, read only as far as a table may be long. */
async function textOf(response: Response): Promise<string> {
  const parts: Uint8Array[] = []
  let bytes = 0
  for await (const part of response.body ?? []) {
    bytes += part.length
    if (bytes > MOST_BYTES) throw new NoTable({ kind: 'no-table' })
    parts.push(part)
  }
  return Buffer.concat(parts).toString('utf8')
}

function refuseTooQuick(points: readonly Position[], seconds: readonly (readonly (number | null)[])[]): void {
  points.forEach((from, a) => {
    points.forEach((to, b) => {
      const took = seconds[a]?.[b] ?? null
      if (a === b || took === null) return
      const km = kmBetween(from, to)
      if (km >= LEAST_KM && took < (km / MOST_KMH) * 3600)
        throw new NoTable({ kind: 'too-quick', km: Math.round(km), minutes: Math.round(took / 60) })
    })
  })
}

/**
 * Whether a firm may have this server ask that address. Whoever runs the server names the hosts, with or without a port, in
 * ROUTING_SERVERS: a firm's setting would else be a way to ask about the operator's own network.
 */
export function isAllowed(address: string, hosts: readonly string[]): boolean {
  const url = URL.parse(address)
  if (url === null || (url.protocol !== 'http:' && url.protocol !== 'https:') || url.username !== '' || url.password !== '') return false
  return hosts.includes(url.hostname) || hosts.includes(url.host)
}
