import { say } from '@evenround/core/words'
import type { VisitPlace } from '../../data/visit-acts'
import { FindingChoice } from '../../parts/visit/finding'
import { PartNumber } from '../../parts/visit/part-number'
import { Choice } from '../../ui/choice'
import { T } from '../../ui/text'
import { FindingPhoto } from './finding-photo'
import { SaltFields } from './salt-fields'
import type { Question } from './use-segment'

interface QuestionViewProps {
  question: Question
  place: VisitPlace
  /** Its step's words above it: not where they stand above it anyway. */
  named: boolean
}

/** What a step asks for, to be chosen or typed. */
export function QuestionView({ question, place, named }: QuestionViewProps) {
  const { step, asked, stage, asksDirt, draft, number, problem, set } = question
  const title = named ? <T kind="strong">{step.text}</T> : null
  if (asked === 'finding' && stage)
    return (
      <>
        {title}
        <FindingChoice finding={draft.finding} onChange={(finding) => set({ finding })} asksDirt={asksDirt} />
        <FindingPhoto place={place} stageId={stage.id} />
      </>
    )
  if (asked === 'part' && stage)
    return (
      <>
        {title}
        <PartNumber
          stage={stage}
          value={draft.partNumber ?? number}
          onChange={(partNumber) => set({ partNumber })}
          problem={draft.doubted === number ? problem : null}
        />
      </>
    )
  if (asked === 'salt' && stage) return <SaltFields salt={draft.salt} onChange={(salt) => set({ salt })} />
  if (asked === 'answer')
    return (
      <>
        {title}
        <Choice
          label={say`Your answer`}
          quietLabel
          value={draft.answer}
          options={[
            { value: 'yes', label: say`Yes, as drawn` },
            { value: 'no', label: say`No, or not sure` },
          ]}
          onChange={(answer) => set({ answer })}
        />
        {draft.answer === 'no' ? (
          <T kind="strong" className="text-oxblood">
            {say`Then the valve that is shut may isolate nothing: the sheet goes on with one further up.`}
          </T>
        ) : null}
      </>
    )
  return null
}
