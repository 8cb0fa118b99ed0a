import { fileURLToPath } from 'node:url'
import type { StageSummary, WearInput } from '@evenround/core/wear'
import { Piscina } from 'piscina'

/** Forecasts in worker threads, so that the process that answers everybody goes on answering. */
export function wearPool() {
  const fromSource = import.meta.url.endsWith('.ts')
  const pool = new Piscina({
    filename: fileURLToPath(new URL(fromSource ? './worker.ts' : './wear-worker.mjs', import.meta.url)),
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 30_000,
    execArgv: fromSource ? ['--import', 'tsx'] : [],
  })
  const summarise = (inputs: readonly WearInput[]): Promise<(StageSummary | null)[]> => pool.run(inputs)
  return { summarise, close: () => pool.close({ force: true }) }
}
