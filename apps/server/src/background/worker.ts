import './below'
import { type Hindsight, type HindsightAsk, hindsightOf, type RuledStage, type StageSummary, summarise } from '@evenround/core/wear'

export default function work(stages: readonly RuledStage[]): (StageSummary | null)[] {
  return stages.map(summarise)
}

export const inHindsight = (ask: HindsightAsk): Hindsight => hindsightOf(ask)
