import type { Schools } from '@evenround/contract/firm'
import { playTrain, type SheetStep, stageLabel, stagesWorked, surprisesFor, surpriseWords, type Train } from '@evenround/core/train'
import { leftOut } from '@evenround/core/visit'
import { Redirect, useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { Pressable, ScrollView, View } from 'react-native'
import { useAwake } from '../../data/device'
import { useMe, useStop } from '../../data/queries'
import { useUnits } from '../../data/units'
import { useVisit, useVisitOfStop } from '../../data/visit'
import { doneStep, recordSurprise, takeBack, takeSurpriseBack, type VisitPlace } from '../../data/visit-acts'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { useUnchanged } from '../../ui/unchanged'
import { Cannot } from './cannot'
import { Clocks } from './clocks'
import { PipeMap } from './pipe-map'
import { PresentRung, RungActs, useRung } from './present-rung'
import { doneKeys, type Ladder, ladder, leftWords, meanwhileOf, type OpenSheet, sheetOf, standingOf } from './sheet-view'

/** The run sheet of this visit, wherever it was left. */
export function RunSheet({ id }: { id: string }) {
  const page = useStop(id)
  const me = useMe()
  const stop = page.data?.stop
  const visitId = useVisitOfStop(stop)
  const visit = useVisit(visitId)
  const back = <BackLink href={`/stop/${id}`} label={stop?.site.name ?? 'The stop'} />
  if (!stop || !me.data || !visit.ready) {
    return (
      <Screen over={back} title="Run sheet">
        {page.error && !stop ? (
          <Failed what="This run sheet cannot be shown" error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what="Loading the run sheet" />
        )}
      </Screen>
    )
  }
  if (visitId === null || visit.state.begun === null) return <Redirect href={`/stop/${id}/measure`} />
  if (visit.state.finished) return <Redirect href={`/stop/${id}/finish`} />
  const train = visit.train ?? stop.system.train
  const place: VisitPlace = { stop, visitId, state: visit.state, today: me.data.today, person: me.data.person.name }
  return <Sheet back={back} place={place} schools={me.data.firm.schools} train={train} />
}

interface SheetProps {
  back: React.ReactNode
  place: VisitPlace
  schools: Schools
  train: Train
}

/** Written anew where something was done or found, not wherever the screen is drawn again. */
function Sheet({ back, place, schools, train }: SheetProps) {
  const { stop, state } = place
  const router = useRouter()
  const units = useUnits()
  const standing = useUnchanged(standingOf(stop, state))
  const sheet = useMemo(() => sheetOf(stop, standing, schools, units, train), [stop, standing, schools, units, train])
  if (!sheet.ok) {
    return (
      <Screen
        over={back}
        title="Run sheet"
        bottom={<Button label="To the finish" kind="act" size="big" grow onPress={() => router.push(`/stop/${stop.id}/finish`)} />}
      >
        <Empty title="No sheet for this one" text={sheet.text} />
      </Screen>
    )
  }
  return <Rungs back={back} sheet={sheet} place={place} train={train} />
}

interface RungsProps {
  back: React.ReactNode
  sheet: Extract<OpenSheet, { ok: true }>
  place: VisitPlace
  train: Train
}

function Rungs({ back, sheet, place, train }: RungsProps) {
  const desk = useDesk()
  const { steps } = sheet
  useAwake(true)
  const [aside, setAside] = useState<string | null>(null)
  const done = doneKeys(steps, place.state)
  const waiting = steps.find(({ key }) => !done.has(key)) ?? null
  // Taken meanwhile only as long as the clock it was taken for still waits.
  const runs = waiting !== null && place.state.timers.has(waiting.key)
  const meanwhile = runs && aside === waiting.key ? meanwhileOf(steps, done) : null
  const rungs = ladder(steps, done, meanwhile)
  const ticked = useUnchanged([...done])
  const played = useMemo(() => playTrain(train, steps, new Set(ticked)), [train, steps, ticked])
  const { present } = rungs
  const active = useMemo(() => new Set(present?.at), [present])
  return (
    <View role="main" className="flex-1 bg-paper">
      <View className={desk ? 'px-4 pt-2' : 'px-4'}>
        <View className="flex-row items-center justify-between">
          {back}
          <T kind="quiet">{leftWords(rungs)}</T>
        </View>
      </View>
      <View className={desk ? 'w-full max-w-[760px]' : ''}>
        <PipeMap train={train} played={played} active={active} />
      </View>
      <Clocks state={place.state} steps={steps} present={rungs.present} />
      {rungs.present ? (
        <LadderView
          key={rungs.present.key}
          rungs={rungs}
          present={rungs.present}
          of={steps.length}
          place={place}
          sheet={sheet}
          train={train}
          aside={
            runs && meanwhileOf(steps, done) !== null ? { on: meanwhile !== null, set: (on) => setAside(on ? waiting.key : null) } : null
          }
        />
      ) : (
        <AllRungsDone rungs={rungs} place={place} />
      )}
    </View>
  )
}

interface LadderViewProps {
  rungs: Ladder
  present: SheetStep
  of: number
  place: VisitPlace
  sheet: Extract<OpenSheet, { ok: true }>
  train: Train
  /** While a clock runs: whether something else is done meanwhile. */
  aside: { on: boolean; set: (on: boolean) => void } | null
}

/** How many done rungs stand above the present one before they fold away. */
const DONE_SHOWN = 3
const PEEK = 3

function LadderView({ rungs, present, of, place, sheet, train, aside }: LadderViewProps) {
  const router = useRouter()
  const [cannot, setCannot] = useState(false)
  const [all, setAll] = useState(false)
  const rung = useRung({ step: present, place, holds: sheet.holds, tasks: sheet.tasks })
  const shown = all ? rungs.done : rungs.done.slice(-DONE_SHOWN)
  return (
    <>
      <ScrollView className="flex-1" contentContainerClassName="w-full max-w-[760px] gap-3 px-4 py-3">
        <View>
          {rungs.done.length > shown.length ? (
            <Pressable role="button" onPress={() => setAll(true)} className="min-h-[40px] justify-center">
              <T kind="quiet">{`${rungs.done.length - shown.length} earlier steps done · show`}</T>
            </Pressable>
          ) : null}
          {shown.map((step) => (
            <DoneRung key={step.key} step={step} place={place} />
          ))}
        </View>
        <PresentRung
          step={present}
          of={of}
          rung={rung}
          mark={present.verb === 'mark' ? (place.state.fitted.get(present.at[0] ?? '')?.markText ?? null) : null}
        />
        {cannot ? (
          <Cannot
            surprises={surprisesFor(train, present, stagesWorked(sheet.steps))}
            nameOf={(id) => bodyName(train, id)}
            onSurprise={(id, stageId) => {
              setCannot(false)
              void recordSurprise(place, present, id, stageId)
            }}
            onSkip={(why) => void doneStep(place, present, leftOut(why))}
            onStop={() => router.push(`/stop/${place.stop.id}/finish?outcome=partly-done`)}
            onClose={() => setCannot(false)}
          />
        ) : null}
        <Met place={place} />
        {aside ? (
          <View className="self-start">
            <Button label={aside.on ? 'Back to the clock' : 'Meanwhile: marks and monitors'} onPress={() => aside.set(!aside.on)} />
          </View>
        ) : null}
        <View aria-label="Next steps" role="list">
          {rungs.coming.slice(0, PEEK).map((step) => (
            <View key={step.key} role="listitem" className="flex-row gap-3 py-1.5">
              <T kind="quiet" className="w-7 text-right">
                {step.n}
              </T>
              <T kind="quiet" className="flex-1">
                {step.text}
              </T>
            </View>
          ))}
        </View>
      </ScrollView>
      <View className="border-t-2 border-line bg-sheet px-4 py-3">
        <View className="w-full max-w-[728px] flex-row gap-3">
          <RungActs act={rung.act} onCannot={() => setCannot(!cannot)} />
        </View>
      </View>
    </>
  )
}

/** What turned out otherwise so far: each can be taken back, and the sheet is as it was. */
function Met({ place }: { place: VisitPlace }) {
  return [...place.state.surprises.values()].map(({ stepKey, surprise }) => (
    <View key={stepKey} className="flex-row items-center gap-3 border-l-4 border-copper pl-3">
      <T kind="small" className="flex-1">{`${surpriseWords(surprise)}: the sheet goes round it.`}</T>
      <Pressable role="button" onPress={() => void takeSurpriseBack(place, stepKey)} className="min-h-[40px] justify-center px-1">
        <T kind="small" className="underline">
          take back
        </T>
      </Pressable>
    </View>
  ))
}

function bodyName(train: Train, id: string): string {
  const node = train.nodes.find((one) => one.id === id)
  if (node?.kind !== 'stage') return id
  const label = stageLabel(node)
  return label.charAt(0).toUpperCase() + label.slice(1)
}

/** A done rung is a line; taking it back is one tap, and the book shows both. */
function DoneRung({ step, place }: { step: SheetStep; place: VisitPlace }) {
  const answer = place.state.done.has(step.key) ? 'take back' : ''
  return (
    <View className="min-h-[40px] flex-row items-center gap-3 border-b border-line">
      <T kind="quiet" className="w-7 text-right">
        {step.n}
      </T>
      <T kind="quiet" className="flex-1" numberOfLines={1}>
        {step.text}
      </T>
      <T kind="label" className="text-lichen-text">
        done
      </T>
      {answer ? (
        <Pressable
          role="button"
          aria-label={`Take back step ${step.n}`}
          onPress={() => void takeBack(place, step)}
          className="min-h-[40px] justify-center px-1"
        >
          <T kind="small" className="underline">
            {answer}
          </T>
        </Pressable>
      ) : null}
    </View>
  )
}

function AllRungsDone({ rungs, place }: { rungs: Ladder; place: VisitPlace }) {
  const router = useRouter()
  const finish = (): void => router.push(`/stop/${place.stop.id}/finish`)
  return (
    <>
      <ScrollView className="flex-1" contentContainerClassName="w-full max-w-[760px] gap-4 px-4 py-4">
        <Empty title="Every step is done" text={`${rungs.done.length} steps. What is left is to look over the record and send it.`} />
        <View>
          {rungs.done.map((step) => (
            <DoneRung key={step.key} step={step} place={place} />
          ))}
        </View>
      </ScrollView>
      <View className="border-t-2 border-line bg-sheet px-4 py-3">
        <View className="w-full max-w-[728px] flex-row">
          <Button label="To the finish" kind="act" size="big" grow onPress={finish} testID="to-finish" />
        </View>
      </View>
    </>
  )
}
