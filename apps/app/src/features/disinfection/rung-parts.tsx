import type { StageDto } from '@evenround/contract/site'
import { type JobStep, storedIsFit } from '@evenround/core/job'
import { chose } from '@evenround/core/visit'
import type { FoundGrade } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import type { Job } from '../../data/job'
import { fitInJob, type JobPlace, tickJob } from '../../data/job-acts'
import { useMe } from '../../data/queries'
import type { Finding } from '../../data/visit-acts'
import { FindingChoice } from '../../parts/visit/finding'
import { GRADES } from '../../parts/visit/grades'
import { numbersFor } from '../../parts/visit/part-check'
import { PartNumber } from '../../parts/visit/part-number'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { T } from '../../ui/text'

interface PartProps {
  step: JobStep
  job: Job
  place: JobPlace
}

const stageIn = ({ page }: Job, id: string | undefined): StageDto | undefined =>
  page?.systems.flatMap(({ stages }) => stages).find((stage) => stage.id === id)

/** How what came out of this place was found, as it was said at its step. */
function foundAt({ steps, state }: Job, stageId: string | undefined): FoundGrade | null {
  const looked = steps.find((step) => step.kind === 'finding' && step.stageId === stageId)
  const said = looked && state.done.get(looked.key)?.choice
  return GRADES.find(({ grade }) => grade === said)?.grade ?? null
}

/** What came out, graded before it goes into its bag or away. */
export function FoundActs({ step, place }: PartProps) {
  const [finding, setFinding] = useState<Finding>({ found: null, dirtPast: null })
  const { found } = finding
  return (
    <View className="gap-3">
      <FindingChoice finding={finding} onChange={setFinding} asksDirt={false} />
      <T kind="quiet">{say`One that goes back in waits in a clean bag, with the number of its place on it.`}</T>
      <Button
        label={say`Record what was found`}
        kind="act"
        size="big"
        disabled={found === null}
        onPress={() => (found === null ? undefined : void tickJob(place, step.key, chose(found)))}
      />
    </View>
  )
}

/** What goes in: a new part by its number, or the one that came out. */
export function PartActs({ step, job, place }: PartProps) {
  const me = useMe().data
  const stage = stageIn(job, step.stageId)
  const [which, setWhich] = useState<'new' | 'old'>('new')
  const [typed, setTyped] = useState(() => (stage ? (numbersFor(stage)[0] ?? '') : ''))
  const germs = job.plan !== null && !storedIsFit(job.plan.reason)
  const number = typed.trim()
  if (!stage || !me) return null
  const found = foundAt(job, stage.id)
  const keep = (): void => {
    if (which === 'old') void tickJob(place, step.key, chose(say`the old one`))
    else void fitInJob(place, step.key, stage, number, found, { today: me.today, person: me.person.name })
  }
  return (
    <View className="gap-3">
      <Choice
        label={say`What goes in`}
        value={which}
        options={[
          { value: 'new', label: say`A new part` },
          { value: 'old', label: say`The old one, from its bag` },
        ]}
        onChange={setWhich}
      />
      {which === 'new' ? <PartNumber stage={stage} value={typed} onChange={setTyped} problem={null} /> : null}
      {which === 'old' && germs ? (
        <T role="alert" kind="strong" className="text-copper-text">
          {say`It stood in water that was found wanting, and can seed what was just disinfected: a new one is the safe choice.`}
        </T>
      ) : null}
      <Button label={say`It is in its place`} kind="act" size="big" disabled={which === 'new' && number === ''} onPress={keep} />
    </View>
  )
}
