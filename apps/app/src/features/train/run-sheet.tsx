import type { Schools } from '@evenround/contract/firm'
import {
  type Action,
  playTrain,
  type SheetStep,
  stageLabel,
  stagesWorked,
  surprisesFor,
  surpriseWords,
  type Train,
} from '@evenround/core/train'
import { leftOut } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { Redirect, useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { Pressable, ScrollView, View } from 'react-native'
import { useDepth } from '../../data/depth'
import { useAwake } from '../../data/device'
import { useMe, useStop } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { useVisit, useVisitOfStop } from '../../data/visit'
import { doneStep, recordSteps, recordSurprise, takeSurpriseBack, type VisitPlace } from '../../data/visit-acts'
import { doneKeys, type OpenSheet, sheetOf, standingOf } from '../../parts/visit/sheet'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { ReadOnly } from '../../ui/read-only'
import { Screen } from '../../ui/screen'
import { Segments } from '../../ui/segments'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { useUnchanged } from '../../ui/unchanged'
import { CannotAt } from './cannot'
import { ChangeWork } from './change-work'
import { Clocks } from './clocks'
import { PipeMap } from './pipe-map'
import { PresentBlock } from './present-block'
import { PresentRung, RungActs } from './present-rung'
import { ComingBlocks, ComingSteps, DoneBlocks, DoneRungs } from './rung-lists'
import { type Asked, askedAt, type Block, blocksOf, segmentOf } from './segment'
import { type Ladder, ladder, leftWords, meanwhileOf } from './sheet-view'
import { useSegment } from './use-segment'
import { useThisBlock } from './use-this-block'

/** The run sheet of this visit, wherever it was left. */
export function RunSheet({ id }: { id: string }) {
  const mayRecord = useMay('record-facts')
  const page = useStop(id)
  const me = useMe()
  const stop = page.data?.stop
  const visitId = useVisitOfStop(stop)
  const visit = useVisit(visitId)
  const back = <BackLink href={`/stop/${id}`} label={stop?.site.name ?? say`The stop`} />
  if (!stop || !me.data || !visit.ready) {
    return (
      <Screen over={back} title={say`Run sheet`}>
        {page.error && !stop ? (
          <Failed what={say`This run sheet cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the run sheet`} />
        )}
      </Screen>
    )
  }
  if (!mayRecord) return <ReadOnly over={back} title={say`Run sheet`} />
  if (visitId === null || visit.state.begun === null) return <Redirect href={`/stop/${id}/measure`} />
  if (visit.state.finished) return <Redirect href={`/stop/${id}/finish`} />
  const train = visit.train ?? stop.system.train
  const place: VisitPlace = { stop, visitId, state: visit.state, today: me.data.today, person: me.data.person.name }
  const newHere = page.data?.history.treatedMgL.length === 0 && page.data.history.untreatedMgL.length === 0
  return <Sheet back={back} place={place} schools={me.data.firm.schools} train={train} newHere={newHere} />
}

interface SheetProps {
  back: React.ReactNode
  place: VisitPlace
  schools: Schools
  train: Train
  /** No reading of this system is known from before this visit: its plumbing is new to everybody. */
  newHere: boolean
}

/** Written anew where something was done or found, not wherever the screen is drawn again. */
function Sheet({ back, place, schools, train, newHere }: SheetProps) {
  const { stop, state } = place
  const router = useRouter()
  const units = useUnits()
  const standing = useUnchanged(standingOf(stop, state))
  const sheet = useMemo(() => sheetOf(stop, standing, schools, units, train), [stop, standing, schools, units, train])
  if (!sheet.ok) {
    return (
      <Screen
        over={back}
        title={say`Run sheet`}
        bottom={<Button label={say`To the finish`} kind="act" size="big" grow onPress={() => router.push(`/stop/${stop.id}/finish`)} />}
      >
        <Empty title={say`No sheet for this one`} text={sheet.text} />
      </Screen>
    )
  }
  const problemWith: ProblemWith = (stage, action) => {
    const { done, answers, changes } = standing
    const change = { at: '', stage, action, why: null, done, answers }
    const made = sheetOf(stop, { ...standing, changes: [...changes, change] }, schools, units, train)
    if (!made.ok) return made.text
    if (action === null) return isLeft(made.steps, done, stage) ? null : STAYS
    return made.steps.some(({ verb, at }) => verb !== 'measure' && at[0] === stage)
      ? null
      : say`Nothing that can be shut keeps the water away from it: put it on a day of its own.`
  }
  return <Rungs back={back} sheet={sheet} place={place} train={train} newHere={newHere} problemWith={problemWith} />
}

const STAYS = say`It cannot be put back from here without harm: finish it, or end the visit and say what stays as it is.`
/** Nothing new goes into a stage any more: what is still to come of it puts the old part back. */
const isLeft = (steps: readonly SheetStep[], done: readonly string[], stage: string): boolean =>
  steps.every(({ key, verb, at }) => done.includes(key) || (verb !== 'mark' && verb !== 'measure') || at[0] !== stage)

interface RungsProps {
  back: React.ReactNode
  newHere: boolean
  problemWith: ProblemWith
  sheet: Extract<OpenSheet, { ok: true }>
  place: VisitPlace
  train: Train
}

function Rungs({ back, sheet, place, train, newHere, problemWith }: RungsProps) {
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
  const blocks = blocksOf(steps, done)
  return (
    <View role="main" className="flex-1 bg-paper">
      <View className={desk ? 'px-4 pt-2' : 'px-4'}>
        <View className="flex-row items-center justify-between">
          {back}
          <T kind="quiet">{leftWords(rungs, place.stop.time)}</T>
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
          blocks={blocks}
          newHere={newHere}
          place={place}
          sheet={sheet}
          train={train}
          problemWith={problemWith}
          aside={
            runs && meanwhileOf(steps, done) !== null ? { on: meanwhile !== null, set: (on) => setAside(on ? waiting.key : null) } : null
          }
        />
      ) : (
        <AllRungsDone rungs={rungs} place={place} sheet={sheet} train={train} problemWith={problemWith} />
      )}
    </View>
  )
}

interface ChangingProps {
  on: boolean
  set: (on: boolean) => void
  place: VisitPlace
  sheet: Extract<OpenSheet, { ok: true }>
  train: Train
  problemWith: ProblemWith
}

function Changing({ on, set, place, sheet, train, problemWith }: ChangingProps) {
  if (on) return <ChangeWork place={place} train={train} steps={sheet.steps} problemWith={problemWith} onClose={() => set(false)} />
  return (
    <View className="self-start">
      <Button label={say`Change today’s work`} onPress={() => set(true)} />
    </View>
  )
}

/** Why a stage cannot be taken into the work as it stands, or left out of it; null where it can. */
type ProblemWith = (stageId: string, action: Action | null) => string | null

interface LadderViewProps {
  rungs: Ladder
  present: SheetStep
  blocks: readonly Block[]
  newHere: boolean
  place: VisitPlace
  sheet: Extract<OpenSheet, { ok: true }>
  train: Train
  problemWith: ProblemWith
  /** While a clock runs: whether something else is done meanwhile. */
  aside: { on: boolean; set: (on: boolean) => void } | null
}

function LadderView({ rungs, present, blocks, newHere, place, sheet, train, problemWith, aside }: LadderViewProps) {
  const router = useRouter()
  const desk = useDesk()
  const [depth, setDepth] = useDepth()
  const [cannot, setCannot] = useState(false)
  const [wanted, setWanted] = useState(0)
  const [changing, setChanging] = useState(false)
  const block = blocks.find(({ name }) => name === present.block) as Block
  const [shown, setShown] = useThisBlock(place, block.name)
  const inBlocks = depth === 'blocks' && (shown ?? (newHere ? 'one-by-one' : 'at-once')) === 'at-once'
  const { stop, state } = place
  const asked = (step: SheetStep) => askedAt(step, stop, sheet.tasks, sheet.holds)
  const steps = inBlocks && !aside?.on ? segmentOf(block.left, present, asked, new Set(state.timers.keys())) : [present]
  const segment = useSegment({ steps, place, holds: sheet.holds, tasks: sheet.tasks })
  const before = depth === 'blocks' ? <DoneBlocks blocks={blocks} place={place} /> : <DoneRungs steps={rungs.done} place={place} />
  const after = depth === 'blocks' ? <ComingBlocks blocks={blocks.filter(({ n }) => n > block.n)} /> : <ComingSteps steps={rungs.coming} />
  return (
    <>
      <View className="flex-1 flex-row">
        <ScrollView className={`flex-1 ${desk ? 'max-w-[776px]' : ''}`} contentContainerClassName="w-full gap-3 px-4 py-3">
          <View className="self-start">
            <Segments label={say`How the sheet is shown`} value={depth} words={DEPTHS} onChange={setDepth} />
          </View>
          {desk ? null : before}
          {steps.length > 1 || inBlocks ? (
            <PresentBlock
              block={block}
              of={blocks.length}
              steps={steps}
              place={place}
              segment={segment}
              wanted={wanted}
              onEveryStep={() => setShown('one-by-one')}
            />
          ) : (
            <PresentRung step={present} of={sheet.steps.length} place={place} segment={segment} />
          )}
          {depth === 'blocks' && !inBlocks ? (
            <View className="gap-2 self-start">
              {newHere ? <T kind="small">{say`Nobody has measured here before: every step is asked, unless you say otherwise.`}</T> : null}
              <Button label={say`This block at once`} onPress={() => setShown('at-once')} />
            </View>
          ) : null}
          {cannot ? (
            <CannotAt
              steps={steps}
              surprises={(step) => surprisesFor(train, step, stagesWorked(sheet.steps))}
              nameOf={(id) => bodyName(train, id)}
              onSurprise={(step, id, stageId) => {
                setCannot(false)
                void stoppedAt(place, steps, step, asked).then(() => recordSurprise(place, step, id, stageId))
              }}
              onSkip={(step, why) => void stoppedAt(place, steps, step, asked).then(() => doneStep(place, step, leftOut(why)))}
              onStop={() => router.push(`/stop/${place.stop.id}/finish?outcome=partly-done`)}
              onClose={() => setCannot(false)}
            />
          ) : null}
          <Met place={place} />
          <Changing on={changing} set={setChanging} place={place} sheet={sheet} train={train} problemWith={problemWith} />
          {aside ? (
            <View className="self-start">
              <Button label={aside.on ? say`Back to the clock` : say`Meanwhile: marks and monitors`} onPress={() => aside.set(!aside.on)} />
            </View>
          ) : null}
          {desk ? null : after}
        </ScrollView>
        {desk ? (
          <ScrollView className="max-w-[380px] flex-1" contentContainerClassName="gap-4 px-4 py-3">
            {before}
            {after}
          </ScrollView>
        ) : null}
      </View>
      <View className="border-t-2 border-line bg-sheet px-4 py-3">
        <View className="w-full max-w-[728px] flex-row flex-wrap gap-3">
          <RungActs act={segment.act} onCannot={() => setCannot(!cannot)} onWanting={() => setWanted(wanted + 1)} />
        </View>
      </View>
    </>
  )
}

const DEPTHS = { blocks: say`Blocks`, 'every-step': say`Every step` }

/** What was done before the step of a block that cannot be done: ticked up to the first that still asks for something. */
function stoppedAt(place: VisitPlace, steps: readonly SheetStep[], at: SheetStep, asked: (step: SheetStep) => Asked | null) {
  const before = steps.slice(0, steps.indexOf(at))
  const open = before.findIndex((step) => asked(step) !== null)
  const plain = open < 0 ? before : before.slice(0, open)
  return plain.length > 0 ? recordSteps(place, plain) : Promise.resolve([])
}

/** What turned out otherwise so far: each can be taken back, and the sheet is as it was. */
function Met({ place }: { place: VisitPlace }) {
  return [...place.state.surprises.values()].map(({ stepKey, surprise }) => (
    <View key={stepKey} className="flex-row items-center gap-3 border-l-4 border-copper pl-3">
      <T kind="small" className="flex-1">{say`${surpriseWords(surprise)}: the sheet goes round it.`}</T>
      <Pressable role="button" onPress={() => void takeSurpriseBack(place, stepKey)} className="min-h-[40px] justify-center px-1">
        <T kind="small" className="underline">
          {say`take back`}
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

function AllRungsDone({ rungs, ...rest }: { rungs: Ladder } & Omit<ChangingProps, 'on' | 'set'>) {
  const router = useRouter()
  const { place } = rest
  const [changing, setChanging] = useState(false)
  const finish = (): void => router.push(`/stop/${place.stop.id}/finish`)
  return (
    <>
      <ScrollView className="flex-1" contentContainerClassName="w-full max-w-[760px] gap-4 px-4 py-4">
        <Empty
          title={say`Every step is done`}
          text={say`${rungs.done.length} steps. What is left is to look over the record and send it.`}
        />
        <Changing on={changing} set={setChanging} {...rest} />
        <DoneRungs steps={rungs.done} place={place} all />
      </ScrollView>
      <View className="border-t-2 border-line bg-sheet px-4 py-3">
        <View className="w-full max-w-[728px] flex-row">
          <Button label={say`To the finish`} kind="act" size="big" grow onPress={finish} testID="to-finish" />
        </View>
      </View>
    </>
  )
}
