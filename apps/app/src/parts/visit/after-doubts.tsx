import type { AfterDoubt } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useUnits } from '../../data/units'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { doubtTitle, lookWords } from './after'

/** What the water after the work asks about, each with what to look at, the likeliest first. */
export function AfterDoubts({ doubts }: { doubts: readonly AfterDoubt[] }) {
  const units = useUnits()
  return doubts.map((doubt) => (
    <Notice key={`${doubt.why}/${doubt.stageId}`} tone={doubt.notDone ? 'danger' : 'look'} title={doubtTitle(doubt, units)} live>
      {doubt.looks.map((look) => (
        <T key={look}>{`· ${lookWords(look)}`}</T>
      ))}
      {doubt.why === 'not-measured' ? <T>{say`What is new here shows in the treated water, and nowhere else.`}</T> : null}
    </Notice>
  ))
}
