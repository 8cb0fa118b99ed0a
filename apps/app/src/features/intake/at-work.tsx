import type { IntakeDto } from '@evenround/contract/intake'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'

/** How often a list at work is looked at. */
export const LOOK_EVERY_MS = 700

/** How far a list is, with the way to stop it; or why nothing of it came in. */
export function AtWork({ intake }: { intake: Pick<IntakeDto, 'id' | 'state' | 'progress' | 'failure'> }) {
  const [problem, setProblem] = useState<string | null>(null)
  const [stopping, setStopping] = useState(false)
  const { id, state, progress, failure } = intake
  const stop = async (): Promise<void> => {
    setStopping(true)
    setProblem(null)
    try {
      await ask(api.intakes[':id'].stop.$post({ param: { id } }))
      await queryClient.invalidateQueries({ queryKey: KEY.intakes })
    } catch (error) {
      setStopping(false)
      setProblem(error instanceof Error ? error.message : say`It could not be stopped.`)
    }
  }
  if (state === 'stopped') return <T>{say`Stopped. Nothing of it was written.`}</T>
  if (state === 'failed') return <T className="text-oxblood">{say`Nothing was imported: ${failure ?? say`it could not be written.`}`}</T>
  const percent = Math.round(progress * 100)
  return (
    <View className="gap-2">
      <T role="status">{state === 'waiting' ? say`Waits for its turn.` : say`Importing: ${percent} %`}</T>
      <View
        role="progressbar"
        aria-label={say`How much is written`}
        aria-valuemin={0}
        aria-valuemax={100}
        aria-valuenow={percent}
        className="h-2 overflow-hidden rounded-full bg-line"
      >
        <View className="h-2 bg-kelp" style={{ width: `${percent}%` }} />
      </View>
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="self-start">
        <Button label={stopping ? say`Stopping …` : say`Stop`} disabled={stopping} onPress={() => void stop()} />
      </View>
    </View>
  )
}
