import { fileURLToPath } from 'node:url'
import type { YearWork, YearWorked } from '@evenround/contract/year-page'
import { say } from '@evenround/core/words'
import { Piscina } from 'piscina'
import { ApiError, badInput } from '../../http/errors'
import type { TextAnswer } from './by-text'
import type { ThreadAsk } from './worker'

/** A call longer than this is stopped; the screens' own sums take milliseconds. */
const CALL_LIMIT_MS = 10_000
/** A year is planned in some seconds; that of tens of thousands of systems takes as long again to be laid out and looked through. */
const YEAR_LIMIT_MS = 90_000
const MB_PER_WORKER = 512

/** Runs the scriptable core and a year's plans in worker threads, apart from the process that answers everybody. */
export function calcPool() {
  // From source the worker is TypeScript too; in the build it stands beside the bundle.
  const fromSource = import.meta.url.endsWith('.ts')
  const worker = fileURLToPath(new URL(fromSource ? './worker.ts' : './calc-worker.mjs', import.meta.url))
  const pool = new Piscina({
    filename: worker,
    minThreads: 0,
    maxThreads: 2,
    idleTimeout: 30_000,
    execArgv: fromSource ? ['--import', 'tsx'] : [],
    resourceLimits: { maxOldGenerationSizeMb: MB_PER_WORKER },
  })
  const inThread = async <T>(ask: ThreadAsk, limitMs: number): Promise<T> => {
    const signal = AbortSignal.timeout(limitMs)
    try {
      return await pool.run(ask, { signal })
    } catch (error) {
      if (signal.aborted) throw new ApiError('TIMED_OUT', say`The calculation took longer than ${limitMs / 1000} s and was stopped.`)
      throw error
    }
  }
  const run = async (name: string, text: string): Promise<string> => {
    const answer = await inThread<TextAnswer>({ name, text }, CALL_LIMIT_MS)
    if (!answer.ok) throw badInput(answer.problems)
    return answer.text
  }
  const year = (ask: YearWork): Promise<YearWorked | null> => inThread({ year: ask }, YEAR_LIMIT_MS)
  return { run, year, close: () => pool.close({ force: true }) }
}
