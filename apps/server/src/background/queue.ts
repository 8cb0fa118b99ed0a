import PgBoss from 'pg-boss'
import type { DataSource } from 'typeorm'
import { executor, FILE_QUEUE, FORECAST_QUEUE, INTAKE_QUEUE, LEASE_SECONDS, QUEUE_SCHEMA, ROAD_QUEUE, ROUND_QUEUE } from '../db/queue'
import type { Log } from '../log'
import { workQueue } from './work'

const POLL_MS = 1000
/** A run that could not be worked to its end is looked at again so soon. */
const AGAIN_SECONDS = 2

export interface Queue {
  /** Asks for a firm's stale forecasts to be recomputed soon; many askings are one job. Never fails the caller. */
  refreshSoon: (firmId: string) => Promise<void>
  /** Hands a run of the round to whichever process is free. */
  planSoon: (firmId: string, runId: string) => Promise<void>
  /** Hands the making of a firm's whole file to whichever process is free. */
  makeFileSoon: (firmId: string, fileId: string) => Promise<void>
  /** Hands the bringing in of a list to whichever process is free. */
  bringInSoon: (firmId: string, intakeId: string) => Promise<void>
  /** Has a firm's routing server asked about what it has not said yet; many askings are one job. */
  roadsSoon: (firmId: string) => Promise<void>
  close: () => Promise<void>
}

interface QueueOptions {
  source: DataSource
  log: Log
  /** Does a firm's work until it is done or `goOn` says no; how many stages it did. */
  refresh: (firmId: string, goOn: () => boolean) => Promise<number>
  /** Works a run of the round until it is done or `goOn` says no; true when nothing is left of it. */
  plan: (firmId: string, runId: string, goOn: () => boolean) => Promise<boolean>
  makeFile: (firmId: string, fileId: string) => Promise<void>
  bringIn: (firmId: string, intakeId: string) => Promise<void>
  /** Asks a firm's routing server until all is known or `goOn` says no; how many places it was asked about. */
  askRoads: (firmId: string, goOn: () => boolean) => Promise<number>
}

const SWEEP_MS = 3_600_000
const ROADS_SWEEP_MS = 15_000

/** Works the queue in this process; any number of processes may do so side by side. */
export async function openQueue({ source, log, refresh, plan, makeFile, bringIn, askRoads }: QueueOptions): Promise<Queue> {
  const boss = new PgBoss({ db: executor(source), schema: QUEUE_SCHEMA, migrate: false, schedule: false, maintenanceIntervalSeconds: 300 })
  boss.on('error', (error) => log('warn', 'queue-trouble', { cause: String(error) }))
  await boss.start()
  let closing = false
  /** Half the time a job is ours: whatever is not done by then goes on under a lease of its own, here or in another process. */
  const lease = () => {
    const until = performance.now() + (LEASE_SECONDS * 1000) / 2
    return { goOn: () => !closing && performance.now() < until, isOver: () => performance.now() >= until }
  }
  /** Asks the database for the firms that something waits for, and has it done for each. */
  const forEach = async (waiting: string, at: string | Date, soon: (firmId: string) => Promise<unknown>): Promise<void> => {
    try {
      const firms = await source.query<{ firm_id: string }[]>(`select ${waiting}($1) as firm_id`, [at])
      for (const { firm_id } of firms) await soon(firm_id)
    } catch (error) {
      log('warn', 'queue-away', { cause: String(error) })
    }
  }
  const send = async (firmId: string): Promise<void> => {
    await boss.send(FORECAST_QUEUE, { firmId }, { singletonKey: firmId })
  }
  const refreshSoon = async (firmId: string): Promise<void> => {
    try {
      await send(firmId)
      forecasts.wake()
    } catch (error) {
      // The marks stand in the firm's own tables: the next asking, or the next start, finds them.
      log('warn', 'queue-away', { cause: String(error) })
    }
  }
  const forecasts = workQueue<{ firmId: string }>(boss, log, {
    queue: FORECAST_QUEUE,
    everyMs: POLL_MS,
    handle: async ({ firmId }) => {
      const { goOn, isOver } = lease()
      const started = performance.now()
      const done = await refresh(firmId, goOn)
      log('info', 'forecasts-made', { firmId, stages: done, ms: Math.round(performance.now() - started) })
      if (isOver()) await send(firmId)
    },
  })
  const planSoon = async (firmId: string, runId: string, inSeconds = 0): Promise<void> => {
    await boss.send(ROUND_QUEUE, { firmId, runId }, { startAfter: inSeconds })
    if (inSeconds === 0) rounds.wake()
  }
  const rounds = workQueue<{ firmId: string; runId: string }>(boss, log, {
    queue: ROUND_QUEUE,
    everyMs: POLL_MS,
    handle: async ({ firmId, runId }) => {
      const started = performance.now()
      const done = await plan(firmId, runId, lease().goOn)
      log('info', 'round-planned', { firmId, runId, done, ms: Math.round(performance.now() - started) })
      if (!done) await planSoon(firmId, runId, AGAIN_SECONDS)
    },
  })
  const files = workQueue<{ firmId: string; fileId: string }>(boss, log, {
    queue: FILE_QUEUE,
    everyMs: POLL_MS,
    handle: async ({ firmId, fileId }) => {
      const started = performance.now()
      await makeFile(firmId, fileId)
      log('info', 'firm-file-made', { firmId, fileId, ms: Math.round(performance.now() - started) })
    },
  })
  const makeFileSoon = async (firmId: string, fileId: string): Promise<void> => {
    await boss.send(FILE_QUEUE, { firmId, fileId })
    files.wake()
  }
  const lists = workQueue<{ firmId: string; intakeId: string }>(boss, log, {
    queue: INTAKE_QUEUE,
    everyMs: POLL_MS,
    handle: async ({ firmId, intakeId }) => {
      const started = performance.now()
      await bringIn(firmId, intakeId)
      log('info', 'list-brought-in', { firmId, intakeId, ms: Math.round(performance.now() - started) })
    },
  })
  const bringInSoon = async (firmId: string, intakeId: string): Promise<void> => {
    await boss.send(INTAKE_QUEUE, { firmId, intakeId })
    lists.wake()
  }
  const sendRoads = (firmId: string): Promise<unknown> => boss.send(ROAD_QUEUE, { firmId }, { singletonKey: firmId })
  const roads = workQueue<{ firmId: string }>(boss, log, {
    queue: ROAD_QUEUE,
    everyMs: POLL_MS,
    handle: async ({ firmId }) => {
      const { goOn, isOver } = lease()
      const asked = await askRoads(firmId, goOn)
      if (asked > 0) log('info', 'roads-asked', { firmId, places: asked })
      if (isOver()) await sendRoads(firmId)
    },
  })
  const roadsSoon = async (firmId: string): Promise<void> => {
    await sendRoads(firmId)
    roads.wake()
  }
  const sweepRoads = (): Promise<void> => forEach('firms_to_ask_roads', new Date(), sendRoads)
  const sweepingRoads = setInterval(() => void sweepRoads(), ROADS_SWEEP_MS)
  const sweep = (): Promise<void> => forEach('firms_to_refresh', new Date().toISOString().slice(0, 10), refreshSoon)
  await sweep()
  // Days to change that move by themselves move on their day also where nobody does anything.
  const sweeping = setInterval(() => void sweep(), SWEEP_MS)
  // A process that was killed left its runs open; whoever is still working one keeps it.
  const open = await source.query<{ firm_id: string; id: string }[]>('select firm_id, id from open_round_runs()')
  for (const { firm_id, id } of open) await planSoon(firm_id, id)
  return {
    refreshSoon,
    planSoon,
    makeFileSoon,
    bringInSoon,
    roadsSoon,
    close: async () => {
      closing = true
      clearInterval(sweeping)
      clearInterval(sweepingRoads)
      await Promise.all([forecasts.stop(), rounds.stop(), files.stop(), lists.stop(), roads.stop()])
      await boss.stop({ graceful: true, timeout: 5000, wait: true })
    },
  }
}
