import type { SitePageDto, SystemDto } from '@evenround/contract/site'
import { type Action, actionsFor, stagesInFlow } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem } from '../../data/api'
import { KEY, queryClient, useMe } from '../../data/queries'
import { putOnToday } from '../../data/stop-here'
import { isLate, stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { Tick } from '../../ui/choice'
import { T } from '../../ui/text'

/** The plumbing, and a stop nobody planned: what is to be done is ticked, then it stands on today. */
export function WorkHere({ system }: { system: SystemDto }) {
  const router = useRouter()
  const me = useMe().data
  const [choosing, setChoosing] = useState(false)
  const stages = stagesInFlow(system.train)
  const due = system.stages.filter(({ due }) => isLate(due)).map(({ id }) => id)
  const [chosen, setChosen] = useState<readonly string[]>(due)
  const [problem, setProblem] = useState<string | null>(null)
  const begin = async (): Promise<void> => {
    setProblem(null)
    const tasks = stages.flatMap((stage) =>
      chosen.includes(stage.id) ? [{ stage: stage.id, action: actionsFor(stage)[0] as Action }] : [],
    )
    const page = queryClient.getQueryData<SitePageDto>(KEY.site(system.siteId))
    if (!me || !page) return
    const { person, today, firm } = me
    try {
      const id = await putOnToday({
        site: page,
        system,
        tasks,
        personId: person.id,
        day: today,
        timeZone: firm.timeZone,
        schools: firm.schools,
      })
      router.push(`/stop/${id}`)
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : say`It could not be put on today. Try once more.`)
    }
  }
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Plumbing`} onPress={() => router.push(`/system/${system.id}`)} />
        {me?.rights.includes('record-facts') && system.stages.some(({ part }) => part === null) ? (
          <Button label={say`Write down what is fitted`} onPress={() => router.push(`/fitted/${system.siteId}`)} />
        ) : null}
        {me?.rights.includes('record-facts') && stages.length > 0 ? (
          <Button label={choosing ? say`Not now` : say`Work here today`} onPress={() => setChoosing(!choosing)} />
        ) : null}
      </View>
      {choosing ? (
        <View className="gap-2" role="group" aria-label={say`What is done at ${system.name}`}>
          {stages.map((stage) => (
            <Tick
              key={stage.id}
              label={`${stage.position} · ${stageName(stage)}`}
              value={chosen.includes(stage.id)}
              onChange={(on) => setChosen((before) => (on ? [...before, stage.id] : before.filter((one) => one !== stage.id)))}
            />
          ))}
          <Button label={say`Put it on today`} kind="act" size="big" disabled={chosen.length === 0} onPress={() => void begin()} />
        </View>
      ) : null}
      {problem ? (
        <T role="alert" kind="strong" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
