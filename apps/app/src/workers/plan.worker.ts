import type { YearWork, YearWorked } from '@evenround/contract/year-page'
import { workYear } from '@evenround/contract/year-work'
import { type GivenPlan, planRound, type RoundInput, type RoundPlan } from '@evenround/core/round'

/** Asked of the worker: a plan of this round, going on from another where there is one. A worker plans once and is then over. */
export interface PlanOrder {
  input: RoundInput
  from: GivenPlan | null
  /** The search runs in turns, each going on from the best before it: between them its plan is told, so that stopping keeps it. */
  turns: number
}
/** A whole year instead. */
export interface YearOrder {
  year: YearWork
}
export interface YearNews {
  year: YearWorked | null
}
export type PlanNews =
  | { kind: 'progress'; share: number; cost: number }
  | { kind: 'best'; plan: RoundPlan }
  | { kind: 'done'; plan: RoundPlan }

const tell = (news: PlanNews | YearNews): void => self.postMessage(news)

self.onmessage = ({ data }: MessageEvent<PlanOrder | YearOrder>) => {
  if ('year' in data) tell({ year: workYear(data.year) })
  else planInTurns(data)
}

function planInTurns({ input, from, turns }: PlanOrder): void {
  let plan = null as RoundPlan | null
  for (let turn = 0; turn < turns; turn++) {
    const start = plan ?? from
    const found = planRound(input, {
      ...(start ? { from: start } : {}),
      progress: (share, cost) => tell({ kind: 'progress', share: (turn + share) / turns, cost }),
    })
    if (plan === null || found.cost.total < plan.cost.total) plan = found
    tell({ kind: 'best', plan })
  }
  if (plan) tell({ kind: 'done', plan })
}
