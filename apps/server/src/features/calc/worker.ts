import { type CalcAnswer, runCalc } from '@evenround/contract/calc'
import type { YearWork, YearWorked } from '@evenround/contract/year-page'
import { workYear } from '@evenround/contract/year-work'

export type ThreadAsk = { name: string; input: unknown } | { year: YearWork }

export default function work(ask: ThreadAsk): CalcAnswer | YearWorked | null {
  return 'year' in ask ? workYear(ask.year) : runCalc(ask.name, ask.input)
}
