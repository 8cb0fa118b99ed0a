import { type GivenPlan, planRound, type RoundInput, type RoundPlan } from '@evenround/core/round'

/** Asked of the worker: a plan of this round, going on from another where there is one. A worker plans once and is then over. */
export interface PlanOrder {
  input: RoundInput
  from: GivenPlan | null
  /** The search runs in turns, each going on from the best before it: between them its plan is told, so that stopping keeps it. */
  turns: number
}
export type PlanNews =
  | { kind: 'progress'; share: number; cost: number }
  | { kind: 'best'; plan: RoundPlan }
  | { kind: 'done'; plan: RoundPlan }

const tell = (news: PlanNews): void => self.postMessage(news)

self.onmessage = ({ data: { input, from, turns } }: MessageEvent<PlanOrder>) => {
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
