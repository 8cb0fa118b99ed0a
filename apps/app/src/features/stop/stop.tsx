import type { StageDto, StopDto, VisitTime } from '@evenround/contract/site'
import { placeText } from '@evenround/core/firm'
import type { Action } from '@evenround/core/train'
import { many, say, sayFor } from '@evenround/core/words'
import { Redirect, useRouter } from 'expo-router'
import { useMemo } from 'react'
import { View } from 'react-native'
import { useMe, useStop } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { useVisitOfStop } from '../../data/visit'
import { stopHref } from '../../parts/disinfection/job-day'
import { GettingIn } from '../../parts/site/getting-in'
import { NoteFault } from '../../parts/site/note-fault'
import { ACTION_WORDS } from '../../parts/visit/action-words'
import { Follows } from '../../parts/visit/follows'
import { HoldLines } from '../../parts/visit/hold-lines'
import { whatForWords } from '../../parts/visit/what-for-words'
import { TrainLine } from '../../parts/wear/train-line'
import { dueSentence, fittedText, stageName } from '../../parts/wear/words'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Columns } from '../../ui/columns'
import { timeOfDay } from '../../ui/format'
import { useKeys } from '../../ui/keys'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** The stop before it begins: how to get in, what hangs there, what is due and why. */
export function StopScreen({ id }: { id: string }) {
  const page = useStop(id)
  const me = useMe()
  const router = useRouter()
  const mayRecord = useMay('record-facts')
  const keys = useMemo(() => {
    const measure = (): void => {
      if (mayRecord) router.push(`/stop/${id}/measure`)
    }
    return { n: measure, Enter: measure }
  }, [router, id, mayRecord])
  useKeys(keys)
  const back = <BackLink href="/today" label={say`Today`} />
  const stop = page.data?.stop
  const visitId = useVisitOfStop(stop)
  if (!stop) {
    return (
      <Screen over={back} title={sayFor('place')`Stop`}>
        {page.error ? (
          <Failed what={say`This stop cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the stop`} />
        )}
      </Screen>
    )
  }
  if (stop.job) return <Redirect href={stopHref(stop)} />
  const finished = stop.visit?.finished === true
  const bottom =
    !mayRecord && !finished ? undefined : finished ? (
      <Button label={say`Look at what was done`} grow size="big" onPress={() => router.push(`/book/${stop.visit?.id}`)} />
    ) : visitId === null ? (
      <Button label={say`Start: measure first`} kind="act" size="big" grow onPress={() => router.push(`/stop/${id}/measure`)} />
    ) : (
      <>
        <Button label={say`Readings`} size="big" onPress={() => router.push(`/stop/${id}/measure`)} />
        <Button label={say`Go on with the run sheet`} kind="act" size="big" grow onPress={() => router.push(`/stop/${id}/sheet`)} />
      </>
    )
  return (
    <Screen over={back} title={stop.site.name} bottom={bottom} wide>
      <StopBody stop={stop} today={me.data?.today ?? stop.day} />
    </Screen>
  )
}

function StopBody({ stop, today }: { stop: StopDto; today: string }) {
  const router = useRouter()
  const mayMend = useMay('mend-at-door')
  const mayRecord = useMay('record-facts')
  const visitId = useVisitOfStop(stop)
  const { site, system, tasks } = stop
  const action = new Map(tasks.map((task) => [task.stageId, task.action]))
  return (
    <Columns>
      <View className="gap-5">
        <View>
          <T kind="quiet">{say`${placeText(site)} · planned ${timeOfDay(stop.arriveMin)}, ${stop.workMin} min${stop.promised ? say` · promised` : ''}`}</T>
          {stop.time && tasks.length > 0 ? <T kind="small">{timeWords(stop, stop.time)}</T> : null}
        </View>
        {tasks.length === 0 && !stop.job ? <T kind="strong">{`${whatForWords(stop)}.`}</T> : null}
        <Follows follows={stop.follows} />
        <HoldLines holds={stop.holds} siteId={stop.site.id} />
        <GettingIn site={site} />
      </View>
      <View className="gap-3">
        <T kind="heading" level={2}>
          {system.name}
        </T>
        <TrainLine stages={system.stages} due={new Set(action.keys())} today={today} height={84} named />
        {system.stages.map((stage) => (
          <StageLine key={stage.id} stage={stage} today={today} action={action.get(stage.id) ?? null} />
        ))}
        <View className="flex-row flex-wrap gap-2">
          {mayRecord && system.stages.some(({ part }) => part === null) ? (
            <Button label={say`Write down what is fitted`} onPress={() => router.push(`/fitted/${site.id}?stop=${stop.id}`)} />
          ) : null}
          {mayMend ? <Button label={say`Correct the plumbing`} onPress={() => router.push(`/system/${system.id}`)} /> : null}
        </View>
        <NoteFault system={system} siteId={site.id} visitId={visitId} />
      </View>
    </Columns>
  )
}

/** What the minutes are made of, and whose they are. */
export function timeWords({ workMin }: Pick<StopDto, 'workMin'>, { handsOnMin, waitingMin, learnedFrom, own }: VisitTime): string {
  const access = Math.round(workMin - handsOnMin - waitingMin)
  const parts = [
    ...(access > 0 ? [say`${access} to get in`] : []),
    say`${Math.round(handsOnMin)} of work`,
    ...(waitingMin > 0 ? [say`${Math.round(waitingMin)} of flushes and clocks`] : []),
  ]
  const by =
    learnedFrom === 0
      ? say`The work is as usual for it.`
      : say`The work is learned from ${many(learnedFrom, 'visit', 'visits')} like it${learnedFrom < 5 ? say`, the usual counts for the rest` : ''}.`
  return `${parts.join(', ')}. ${by}${own && own.from > 0 && Math.abs(own.handsOnMin - handsOnMin) >= 1 ? say` Yours take ${Math.round(own.handsOnMin)}.` : ''}`
}

function StageLine({ stage, today, action }: { stage: StageDto; today: string; action: Action | null }) {
  const units = useUnits()
  return (
    <View className={`flex-row gap-3 border-t-2 border-line pt-2 ${action ? '' : 'opacity-90'}`}>
      <T kind="strong" className="w-6">
        {stage.position}
      </T>
      <View className="flex-1">
        <T kind="strong">{`${stageName(stage)}${action ? `: ${ACTION_WORDS[action]}` : ''}`}</T>
        <T className={action ? '' : 'text-quiet'}>{dueSentence(stage, today, units)}</T>
        <T kind="small">{`${fittedText(stage, today)}${action === 'change' && stage.nextPart ? say` · bring ${stage.nextPart.partNumber}` : ''}`}</T>
      </View>
    </View>
  )
}
