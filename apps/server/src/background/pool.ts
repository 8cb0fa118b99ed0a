import { fileURLToPath } from 'node:url'
import type { Hindsight, HindsightAsk, RuledStage, StageSummary } from '@evenround/core/wear'
import { Piscina } from 'piscina'
import type { PlanInThread } from '../features/round/run'

function poolOf(source: string, built: string): Piscina {
  const fromSource = import.meta.url.endsWith('.ts')
  return new Piscina({
    filename: fileURLToPath(new URL(fromSource ? source : built, import.meta.url)),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 30_000,
    execArgv: fromSource ? ['--import', 'tsx'] : [],
  })
}

/** Rounds in worker threads. */
export function roundPool() {
  const pool = poolOf('./round-worker.ts', './round-worker.mjs')
  const plan: PlanInThread = (ask) => pool.run(ask)
  return { plan, close: () => pool.close({ force: true }) }
}

/** Forecasts in worker threads, so that the process that answers everybody goes on answering. */
export function wearPool() {
  const pool = poolOf('./worker.ts', './wear-worker.mjs')
  const summarise = (stages: readonly RuledStage[]): Promise<(StageSummary | null)[]> => pool.run(stages)
  const inHindsight = (ask: HindsightAsk): Promise<Hindsight> => pool.run(ask, { name: 'inHindsight' })
  return { summarise, inHindsight, close: () => pool.close({ force: true }) }
}
