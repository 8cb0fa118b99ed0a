import './below'
import { planRound } from '@evenround/core/round'
import type { PlanAsk } from '../features/round/run'

export default function work({ input, seconds, from }: PlanAsk) {
  const end = performance.now() + seconds * 1000
  const { days, cost } = planRound(input, { ...(from ? { from } : {}), stop: () => performance.now() >= end })
  return { days, cost: cost.total }
}
