import { fileURLToPath } from 'node:url'
import type { MapFeature } from '@evenround/contract/geo'
import type { Hindsight, HindsightAsk, RuledStage, StageSummary } from '@evenround/core/wear'
import { Piscina } from 'piscina'
import type { PlanInThread } from '../features/round/run'

/** A thread that waits so long for its next work goes. */
const IDLE_MS = 30_000
/** Reading the earth's outlines takes a second: a thread that has them stays a while. */
const MAP_IDLE_MS = 1_800_000

function poolOf(source: string, built: string, { threads = 2, idleMs = IDLE_MS } = {}): Piscina {
  const fromSource = import.meta.url.endsWith('.ts')
  return new Piscina({
    filename: fileURLToPath(new URL(fromSource ? source : built, import.meta.url)),
    minThreads: 0,
    maxThreads: threads,
    idleTimeout: idleMs,
    execArgv: fromSource ? ['--import', 'tsx'] : [],
  })
}

/** Rounds in worker threads. */
export function roundPool() {
  const pool = poolOf('./round-worker.ts', './round-worker.mjs')
  const plan: PlanInThread = (ask) => pool.run(ask)
  return { plan, close: () => pool.close({ force: true }) }
}

/** Coasts and borders in a thread of their own. */
export function mapPool() {
  const pool = poolOf('./map-worker.ts', './map-worker.mjs', { threads: 1, idleMs: MAP_IDLE_MS })
  const outlines = (places: readonly { lat: number; lon: number }[]): Promise<MapFeature[]> =>
    pool.run(places.map(({ lat, lon }) => ({ lat, lon })))
  return { outlines, close: () => pool.close({ force: true }) }
}

/** Forecasts in worker threads, so that the process that answers everybody goes on answering. */
export function wearPool() {
  const pool = poolOf('./worker.ts', './wear-worker.mjs')
  const summarise = (stages: readonly RuledStage[]): Promise<(StageSummary | null)[]> => pool.run(stages)
  const inHindsight = (ask: HindsightAsk): Promise<Hindsight> => pool.run(ask, { name: 'inHindsight' })
  return { summarise, inHindsight, close: () => pool.close({ force: true }) }
}
