import '../../background/below'
import type { YearWork, YearWorked } from '@evenround/contract/year-page'
import { workYear } from '@evenround/contract/year-work'
import { calcByText, type TextAnswer } from './by-text'

export type ThreadAsk = { name: string; text: string } | { year: YearWork }

export default function work(ask: ThreadAsk): TextAnswer | YearWorked | null {
  return 'year' in ask ? workYear(ask.year) : calcByText(ask.name, ask.text)
}
