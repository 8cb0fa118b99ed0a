import { type StageSummary, summarise, type WearInput } from '@evenround/core/wear'

export default function work(inputs: readonly WearInput[]): (StageSummary | null)[] {
  return inputs.map(summarise)
}
