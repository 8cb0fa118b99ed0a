import { setTimeout as sleep } from 'node:timers/promises'
import { FORECAST_QUEUE } from '../db/queue'
import { peek } from '../testing/database'
import { openWorld, type World } from '../testing/world'
import { openQueue, type Queue } from './queue'

let world: World
let firmId = ''
beforeAll(async () => {
  world = await openWorld('demo')
  firmId = (await peek<{ firm_id: string }>(world.database, 'select firm_id from firm limit 1'))[0]?.firm_id ?? ''
})
afterAll(() => world.close())

const until = async (there: () => boolean | Promise<boolean>): Promise<void> => {
  for (let tries = 0; tries < 100; tries++) {
    if (await there()) return
    await sleep(100)
  }
  throw new Error('it never came')
}
/** The superuser's way in by another database: one that is shut can't be opened from inside. */
const adminUrl = (): string => {
  const url = new URL(world.database.adminUrl)
  url.pathname = '/postgres'
  return url.toString()
}
const open = (refresh: (firmId: string, goOn: () => boolean) => Promise<number>): Promise<Queue> =>
  openQueue({
    source: world.source,
    log: () => undefined,
    refresh,
    plan: async () => true,
    bringIn: async () => undefined,
    makeFile: async () => undefined,
    askRoads: async () => 0,
  })

test('many askings are one job; the next asking is another', async () => {
  const asked: string[] = []
  const queue = await open(async (id) => asked.push(id))
  try {
    await Promise.all([1, 2, 3, 4, 5].map(() => queue.refreshSoon(firmId)))
    await until(() => asked.length > 0)
    // Until nothing of the queue waits or runs.
    await until(async () => {
      const [row] = await peek<{ n: string }>(
        world.database,
        `select count(*) as n from jobs.job where name = $1 and state < 'completed'`,
        [FORECAST_QUEUE],
      )
      return row?.n === '0'
    })
    expect(asked.length).toBeLessThanOrEqual(2)
    const before = asked.length
    await queue.refreshSoon(firmId)
    await until(() => asked.length > before)
    expect(new Set(asked)).toEqual(new Set([firmId]))
  } finally {
    await queue.close()
  }
})

test('work that fails is tried again', async () => {
  let tries = 0
  const queue = await open(async () => {
    tries += 1
    if (tries === 1) throw new Error('the first time it fails')
    return 0
  })
  try {
    await queue.refreshSoon(firmId)
    await until(() => tries > 1)
  } finally {
    await queue.close()
  }
})

test('marks that were left behind are found when the server starts', async () => {
  await world.deps.inFirm(firmId, (scope) =>
    scope.query(
      `insert into stale_stage (firm_id, stage_id, marked_at) select firm_id, id, test_clock() from stage where firm_id = $1 limit 3`,
    ),
  )
  const asked: string[] = []
  const queue = await open(async (id) => asked.push(id))
  try {
    await until(() => asked.includes(firmId))
  } finally {
    await queue.close()
  }
})

test('closing lets the work at hand come to an end', async () => {
  const seen: string[] = []
  const queue = await open(async (_, goOn) => {
    seen.push('begun')
    while (goOn()) await sleep(50)
    seen.push('ended')
    return 1
  })
  await queue.refreshSoon(firmId)
  await until(() => seen.includes('begun'))
  await queue.close()
  expect(seen).toContain('ended')
})

test('the database goes away in the middle of a job: it is logged, nothing is left without an answer, and work goes on', async () => {
  const unheard: unknown[] = []
  const hear = (reason: unknown): void => {
    unheard.push(reason)
  }
  process.on('unhandledRejection', hear)
  const logged: string[] = []
  const name = new URL(world.database.appUrl).pathname.slice(1)
  const shut = async (open: boolean): Promise<void> => {
    await peek({ ...world.database, adminUrl: adminUrl() }, `alter database ${name} allow_connections ${open}`)
    if (!open)
      await peek({ ...world.database, adminUrl: adminUrl() }, 'select pg_terminate_backend(pid) from pg_stat_activity where datname = $1', [
        name,
      ])
  }
  const handled: string[] = []
  const queue = await openQueue({
    source: world.source,
    log: (_, event) => {
      logged.push(event)
    },
    refresh: async (id) => {
      handled.push(id)
      if (handled.length === 1) {
        await shut(false)
        throw new Error('what it was doing needs the database')
      }
      return 0
    },
    plan: async () => true,
    bringIn: async () => undefined,
    makeFile: async () => undefined,
    askRoads: async () => 0,
  })
  try {
    await queue.refreshSoon(firmId)
    await until(() => logged.filter((event) => event === 'queue-trouble').length > 1)
    await shut(true)
    const before = handled.length
    await until(async () => {
      await queue.refreshSoon(firmId)
      return handled.length > before
    })
    expect(unheard).toEqual([])
  } finally {
    await shut(true)
    await queue.close()
    process.off('unhandledRejection', hear)
  }
})

test('the server’s role works the queue and owns none of it', async () => {
  const owners = await peek<{ owner: string }>(
    world.database,
    `select distinct r.rolname as owner from pg_class c join pg_roles r on r.oid = c.relowner join pg_namespace n on n.oid = c.relnamespace
     where n.nspname = 'jobs' and c.relkind in ('r', 'p')`,
  )
  expect(owners.map(({ owner }) => owner)).toEqual(['evenround_owner'])
  expect(await peek(world.database, 'select 1 from jobs.queue where name = $1', [FORECAST_QUEUE])).toHaveLength(1)
})
