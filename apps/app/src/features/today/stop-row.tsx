import type { StopDto } from '@evenround/contract/site'
import { placeText } from '@evenround/core/firm'
import { strictestHold } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { Pressable, View } from 'react-native'
import { useUnits } from '../../data/units'
import { JOB_DAY_WORDS, stopHref } from '../../parts/disinfection/job-day'
import { holdWords } from '../../parts/visit/hold-words'
import { TrainLine } from '../../parts/wear/train-line'
import { namedSentence } from '../../parts/wear/words'
import { timeOfDay } from '../../ui/format'
import { T } from '../../ui/text'
import { type StopState, taskWords } from './view'

interface StopRowProps {
  stop: StopDto
  today: string
  state: StopState
  chosen: boolean
  /** At a desk a row is chosen first; on a phone it opens. */
  onChoose?: (() => void) | undefined
}

/** A stop in the list: when, where, and the reason that weighs most. */
export function StopRow({ stop, today, state, chosen, onChoose }: StopRowProps) {
  const units = useUnits()
  const { site, system, tasks } = stop
  const due = new Set(tasks.map(({ stageId }) => stageId))
  const dueStages = system.stages.filter(({ id }) => due.has(id))
  const [first] = dueStages
  const hold = strictestHold(stop.holds, new Date().toISOString())
  const inside = (
    <View
      className={`w-full flex-row gap-3 border-t-2 border-line py-3 ${onChoose ? 'border-l-4 pl-2' : ''} ${chosen ? 'border-l-kelp bg-sheet' : 'border-l-transparent'}`}
    >
      <T kind="strong" className={`w-[52px] ${state === 'done' ? 'text-lichen-text' : ''}`}>
        {state === 'done' ? '✓' : timeOfDay(stop.arriveMin)}
      </T>
      <View className="flex-1">
        <T kind="strong" numberOfLines={2}>
          {site.name}
        </T>
        <T kind="quiet">{`${placeText(site)}${stop.ferryAt ? say`, by ferry` : ''}`}</T>
        {state === 'done' ? (
          <T kind="quiet">{say`Done`}</T>
        ) : stop.job ? (
          <T kind="quiet" className="text-ink">
            {JOB_DAY_WORDS[stop.job.day]}
          </T>
        ) : first ? (
          <T
            kind="quiet"
            className="text-ink"
          >{`${namedSentence(first, today, units)}${dueStages.length > 1 ? say` And ${dueStages.length - 1} more.` : ''}`}</T>
        ) : tasks.length === 0 ? (
          <T kind="quiet" className="text-ink">{`${taskWords(stop)}.`}</T>
        ) : null}
        {hold ? <T kind="label" className="text-oxblood">{say`Hold: ${holdWords(hold.holdKind)}`}</T> : null}
      </View>
      <TrainLine stages={dueStages.slice(0, 3)} due={due} today={today} height={44} />
    </View>
  )
  if (onChoose) {
    return (
      <View role="listitem">
        <Pressable role="button" aria-pressed={chosen} onPress={onChoose}>
          {inside}
        </Pressable>
      </View>
    )
  }
  return (
    <View role="listitem">
      <Link href={stopHref(stop)} asChild>
        <Pressable>{inside}</Pressable>
      </Link>
    </View>
  )
}
