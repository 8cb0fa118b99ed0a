import type { YearWork, YearWorked } from '@evenround/contract/year-page'
import type { RoundPlan } from '@evenround/core/round'
import { say } from '@evenround/core/words'
import type { PlanNews, PlanOrder, YearNews, YearOrder } from '../workers/plan.worker'

export interface PlanHere {
  /** The plan, or null where it was stopped before there was one. */
  done: Promise<RoundPlan | null>
  /** Ends it with the best there is. */
  stop: () => void
}

/** Built beside the app and kept on the device with it, so that a round is planned without a network too. */
const WORKER = '/plan-worker.js'

/** Plans a round in a worker of this device. */
export function planHere(order: PlanOrder, onProgress: (share: number, cost: number) => void): PlanHere {
  const worker = new Worker(WORKER)
  let best: RoundPlan | null = null
  let end: (plan: RoundPlan | null) => void = () => undefined
  const done = new Promise<RoundPlan | null>((resolve, reject) => {
    end = (plan) => {
      worker.terminate()
      resolve(plan)
    }
    worker.onmessage = ({ data }: MessageEvent<PlanNews>) => {
      if (data.kind === 'progress') onProgress(data.share, data.cost)
      else best = data.plan
      if (data.kind === 'done') end(data.plan)
    }
    worker.onerror = (event) => {
      worker.terminate()
      reject(notStarted(event))
    }
  })
  worker.postMessage(order)
  return { done, stop: () => end(best) }
}

const notStarted = (event: ErrorEvent): Error => new Error(event.message || say`The planner could not be started on this device.`)

/** Plans a year in a worker of this device. */
export function planYearHere(year: YearWork): Promise<YearWorked | null> {
  const worker = new Worker(WORKER)
  return new Promise<YearWorked | null>((resolve, reject) => {
    worker.onmessage = ({ data }: MessageEvent<YearNews>) => resolve(data.year)
    worker.onerror = (event) => reject(notStarted(event))
    worker.postMessage({ year } satisfies YearOrder)
  }).finally(() => worker.terminate())
}
