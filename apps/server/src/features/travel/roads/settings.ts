import type { RoadServerDto } from '@evenround/contract/road-server'
import { say } from '@evenround/core/words'
import type { FirmScope } from '../../../db/scope'
import { badInput } from '../../../http/errors'
import { staleVersion } from '../../../http/versions'
import { isAllowed, type RoadProblem } from './table-server'

interface Row {
  address: string
  version: number
  places: number
  known: number
  off_road: number
  asked_at: Date | null
  answered_at: Date | null
  next_at: Date
  problem: RoadProblem | null
}

const NONE = {
  address: null,
  version: 0,
  places: 0,
  known: 0,
  offRoad: 0,
  askedAt: null,
  answeredAt: null,
  nextAt: null,
  asking: false,
  problem: null,
}

/** A firm's routing server and how far it has answered. */
export async function roadServerOf(scope: FirmScope, hosts: readonly string[], now: Date): Promise<RoadServerDto> {
  const [row] = await scope.query<Row>(
    'select address, version, places, known, off_road, asked_at, answered_at, next_at, problem from road_server where firm_id = $1',
  )
  if (!row) return { ...NONE, hosts: [...hosts] }
  return {
    hosts: [...hosts],
    address: row.address,
    version: row.version,
    places: row.places,
    known: row.known,
    offRoad: row.off_road,
    askedAt: row.asked_at?.toISOString() ?? null,
    answeredAt: row.answered_at?.toISOString() ?? null,
    nextAt: row.next_at.toISOString(),
    asking: row.next_at <= now,
    problem: row.problem && problemText(row.problem),
  }
}

function problemText(problem: RoadProblem): string {
  switch (problem.kind) {
    case 'not-allowed':
      return say`Whoever runs this server does not allow that address any more.`
    case 'absent':
      return say`Nothing answers at that address.`
    case 'slow':
      return say`It did not answer in time.`
    case 'no-table':
      return say`What it answers is no table of driving times.`
    case 'refused':
      return say`It refused to answer (HTTP ${problem.status}).`
    case 'too-quick':
      return say`It answered with ${problem.minutes} min for ${problem.km} km, which no van drives; nothing of it is used.`
  }
}

/** An address as it is kept: without a slash at its end, a query or a place on the page. */
function addressOf(typed: string): string | null {
  const url = URL.parse(typed)
  return url === null ? null : `${url.origin}${url.pathname}`.replace(/\/+$/, '')
}

interface Edit {
  address: string | null
  version: number
}

/** Names the routing server, or does without one: what it gave is thrown away with it. */
export async function putRoadServer(scope: FirmScope, { address, version }: Edit, hosts: readonly string[], now: Date): Promise<void> {
  const [row] = await scope.query<{ address: string; version: number }>(
    'select address, version from road_server where firm_id = $1 for update',
  )
  if ((row?.version ?? 0) !== version) throw staleVersion('road-server', await roadServerOf(scope, hosts, now))
  if (address === null) {
    await scope.query('delete from road_server where firm_id = $1')
    await scope.query('delete from road_row where firm_id = $1')
    return
  }
  const clean = isAllowed(address, hosts) ? addressOf(address) : null
  if (clean === null)
    throw badInput([
      {
        path: 'address',
        message:
          hosts.length === 0
            ? say`whoever runs this server has allowed no routing server yet (ROUTING_SERVERS)`
            : say`expected an address at ${hosts.join(', ')}, which whoever runs this server allows`,
      },
    ])
  if (row?.address === clean) return askAgain(scope, now)
  await scope.query('delete from road_row where firm_id = $1')
  await scope.query(
    `insert into road_server (firm_id, address, version, next_at) values ($1, $2, $3, $4)
     on conflict (firm_id) do update set address = excluded.address, version = excluded.version, next_at = excluded.next_at,
       asked_at = null, answered_at = null, failures = 0, problem = null, places = 0, known = 0, off_road = 0`,
    [clean, version + 1, now],
  )
}

/** Has it asked now, whatever was wrong before. */
export async function askAgain(scope: FirmScope, now: Date): Promise<void> {
  await scope.query('update road_server set next_at = $2, failures = 0, problem = null where firm_id = $1', [now])
}
