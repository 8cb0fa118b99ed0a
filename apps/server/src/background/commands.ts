import type { IntakeAsk } from '@evenround/contract/intake'
import type { DataSource } from 'typeorm'
import { v7 as uuidv7 } from 'uuid'
import { apartRoutes } from '../apart-routes'
import { firmScopes } from '../db/scope'
import { demoBeside } from '../demo/beside'
import { calcPool } from '../features/calc/pool'
import { makeFile } from '../features/export/make'
import { previewOf } from '../features/intake/preview'
import { workIntake } from '../features/intake/work'
import { workRun } from '../features/round/run'
import { thinTelemetry } from '../features/telemetry/store'
import { refreshRoads } from '../features/travel/roads/refresh'
import { tableServer } from '../features/travel/roads/table-server'
import { refreshFirm } from '../features/wear/refresh'
import { firmFilesOf } from '../firm-file'
import { answerApart } from '../http/apart'
import { tellOver } from '../http/live'
import type { Log } from '../log'
import { roundPool, wearPool } from './pool'
import { openQueue } from './queue'

/** What a thread can be asked, by name. */
export type Commands = Record<string, (...args: never[]) => Promise<unknown>>

interface Working {
  source: DataSource
  now: () => Date
}

/** The queue of every firm's work: forecasts, plans, lists, whole files. */
export async function queueOf({
  source,
  log,
  now,
  planSeconds,
  roadHosts,
}: Working & { log: Log; planSeconds: number | null; roadHosts: readonly string[] }): Promise<Commands> {
  const inFirm = firmScopes(source)
  const tell = tellOver(source, log)
  const firmFiles = firmFilesOf(source, now)
  const wear = wearPool()
  const rounds = roundPool()
  const queue = await openQueue({
    source,
    log,
    refresh: async (firmId, goOn) => {
      const done = await refreshFirm({ inFirm, now, summarise: wear.summarise }, firmId, goOn)
      await inFirm(firmId, (scope) => thinTelemetry(scope, now()))
      if (done > 0) await tell(firmId, { what: 'forecasts' })
      return done
    },
    plan: (firmId, runId, goOn) =>
      workRun({ inFirm, now, plan: (ask) => rounds.plan({ ...ask, seconds: planSeconds ?? ask.seconds }) }, firmId, runId, goOn),
    askRoads: (firmId, goOn) => refreshRoads({ inFirm, now, hosts: roadHosts, serverAt: tableServer }, firmId, goOn),
    makeFile: (firmId, fileId) => makeFile({ inFirm, now, write: firmFiles.write }, firmId, fileId),
    bringIn: async (firmId, intakeId) => {
      const isIn = await workIntake({ inFirm, now, newId: uuidv7 }, firmId, intakeId)
      await tell(firmId, { what: 'edited', thing: 'sites' })
      if (isIn) await queue.refreshSoon(firmId)
    },
  })
  const { refreshSoon, planSoon, makeFileSoon, bringInSoon, roadsSoon } = queue
  const close = async (): Promise<void> => {
    await queue.close()
    await wear.close()
    await rounds.close()
    await source.destroy()
  }
  return { refreshSoon, planSoon, makeFileSoon, bringInSoon, roadsSoon, close }
}

/** Lists looked through before they are brought in. */
export async function listsOf({ source, now }: Working): Promise<Commands> {
  const inFirm = firmScopes(source)
  return {
    preview: (firmId: string, ask: IntakeAsk) => inFirm(firmId, (scope) => previewOf(scope, ask, now())),
    close: () => source.destroy(),
  }
}

/** Requests that read all of a firm or make a whole plan, and the demo beside one's own. */
export async function apartOf({ source, log, now }: Working & { log: Log }): Promise<Commands> {
  const pool = calcPool()
  const wear = wearPool()
  const rounds = roundPool()
  const demo = demoBeside(source, now, uuidv7, rounds.plan)
  const routes = apartRoutes({ inFirm: firmScopes(source), now, newId: uuidv7, workYear: pool.year, inHindsight: wear.inHindsight })
  const close = async (): Promise<void> => {
    await pool.close()
    await wear.close()
    await rounds.close()
    await source.destroy()
  }
  return { answer: answerApart(routes, log), loadDemo: demo.load, close }
}
