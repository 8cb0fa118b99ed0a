import type { StageDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { percent } from '../../ui/format'
import { T } from '../../ui/text'
import { Vessel } from '../../ui/vessel'
import { causeWord, stageName, waterOf } from './words'

interface TrainLineProps {
  stages: readonly StageDto[]
  due: ReadonlySet<string>
  today: string
  height?: number
  /** Names under the vessels. */
  named?: boolean
}

/** A train as its vessels in flow order, joined by the pipe. */
export function TrainLine({ stages, due, today, height = 52, named = false }: TrainLineProps) {
  const units = useUnits()
  return (
    <View className="flex-row flex-wrap items-end">
      {stages.map((stage, index) => {
        const water = waterOf(stage, today)
        const level = water.level === null ? say`not known` : say`${percent(water.level)} left`
        const cause = water.cause === null ? '' : say`, ${causeWord(water.cause, units)} decides`
        return (
          <View key={stage.id} className="flex-row items-end">
            {index > 0 ? <View className={`h-[3px] w-2 bg-quiet ${named ? 'mb-8' : 'mb-3'}`} /> : null}
            <View className="items-center gap-1">
              <Vessel
                {...water}
                due={due.has(stage.id)}
                height={height}
                label={`${stage.position} ${stageName(stage)}: ${level}${cause}${due.has(stage.id) ? say`, due` : ''}`}
              />
              {named ? <T kind="small">{stage.position}</T> : null}
            </View>
          </View>
        )
      })}
    </View>
  )
}
