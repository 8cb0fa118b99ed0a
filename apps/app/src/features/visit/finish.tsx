import type { MeDto } from '@evenround/contract/firm'
import type { StopPageDto } from '@evenround/contract/site'
import { isFitted, type Train } from '@evenround/core/train'
import type { VisitOutcome, VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useLocalSearchParams, useRouter } from 'expo-router'
import { useMemo, useState } from 'react'
import { View } from 'react-native'
import { useLocal } from '../../data/local'
import { record } from '../../data/outbox'
import { useMe, useStop } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { useVisit, useVisitOfStop } from '../../data/visit'
import { leaveRest } from '../../data/visit-acts'
import { NoteFault } from '../../parts/site/note-fault'
import { doubtsAfter } from '../../parts/visit/after'
import { AfterDoubts } from '../../parts/visit/after-doubts'
import { OUTCOMES } from '../../parts/visit/outcomes'
import { ReadingsTable } from '../../parts/visit/readings-table'
import { sheetOf, standingAt, standingOf } from '../../parts/visit/sheet'
import { WhyLeft } from '../../parts/visit/why-left'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { Columns } from '../../ui/columns'
import { Field } from '../../ui/field'
import { Notice } from '../../ui/notice'
import { ReadOnly } from '../../ui/read-only'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { finishProblem, hasMonitor, verbDone } from './finish-view'
import { Finished } from './finished'
import { FittedParts } from './fitted-parts'

interface PutBackProps {
  stopId: string
  /** Something of the work has no new part in it yet. */
  mayLeave: boolean
  onLeave: (why: string) => Promise<unknown>
}

/** The way to the steps that put everything back, for whoever stops in the middle. */
function PutBack({ stopId, mayLeave, onLeave }: PutBackProps) {
  const router = useRouter()
  const toSheet = (): void => router.push(`/stop/${stopId}/sheet`)
  const back = <Button label={say`Back to the run sheet`} onPress={toSheet} />
  if (!mayLeave) return <View className="self-start">{back}</View>
  return (
    <WhyLeft
      label={say`Why the rest is left`}
      act={say`Stop here: put everything back`}
      beside={back}
      onLeave={(why) => void onLeave(why).then(toSheet)}
    />
  )
}

/** The note, with why readings that were asked about were kept. */
const noteOf = (note: string, kept: string): string =>
  [note.trim(), kept.trim() === '' ? '' : say`Readings after the work were asked about and kept: ${kept.trim()}`]
    .filter((line) => line !== '')
    .join('\n')

/** The end of a visit: the record looked over, the customer told, the next date seen. */
export function Finish({ id }: { id: string }) {
  const page = useStop(id)
  const me = useMe()
  const mayRecord = useMay('record-facts')
  const stop = page.data?.stop
  const visitId = useVisitOfStop(stop)
  const visit = useVisit(visitId)
  const back = <BackLink href={`/stop/${id}/sheet`} label={say`Run sheet`} />
  if (!mayRecord && me.data) return <ReadOnly over={<BackLink href={`/stop/${id}`} label={say`The stop`} />} title={say`Finish`} />
  if (!page.data || !stop || !me.data || !visit.ready) {
    return (
      <Screen over={back} title={say`Finish`}>
        {page.error && !stop ? (
          <Failed what={say`This visit cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the visit`} />
        )}
      </Screen>
    )
  }
  if (visit.state.finished && visitId !== null) return <Finished page={page.data} state={visit.state} visitId={visitId} me={me.data} />
  if (visitId === null) {
    return (
      <Screen over={<BackLink href={`/stop/${id}`} label={stop.site.name} />} title={say`Finish`}>
        <Failed what={say`This visit has not begun`} error={new Error(say`Begin at the stop: measure first.`)} />
      </Screen>
    )
  }
  return (
    <FinishForm back={back} train={visit.train ?? stop.system.train} page={page.data} state={visit.state} visitId={visitId} me={me.data} />
  )
}

interface FinishFormProps {
  /** The plumbing as it was when the visit began. */
  train: Train
  back: React.ReactNode
  page: StopPageDto
  state: VisitState
  visitId: string
  me: MeDto
}

interface Typed {
  outcome: VisitOutcome
  monitorReset: boolean
  customerTold: boolean
  note: string
  standsKnown: boolean
  /** Why readings that were asked about are right all the same. */
  kept: string
}

function FinishForm({ back, train, page, state, visitId, me }: FinishFormProps) {
  const { stop } = page
  const router = useRouter()
  const { outcome: asked } = useLocalSearchParams<{ outcome?: string }>()
  const monitor = hasMonitor(stop, state)
  const units = useUnits()
  const start: Typed = {
    // All of it was left for another day: that is no visit that was done.
    outcome: OUTCOMES.find(({ value }) => value === asked)?.value ?? (state.work?.length === 0 ? 'partly-done' : 'done'),
    monitorReset: verbDone(state, 'close-out', 'reset'),
    customerTold: verbDone(state, 'close-out', 'tell'),
    note: '',
    standsKnown: false,
    kept: '',
  }
  const [typed, setTyped, forget] = useLocal<Typed>(`even-round.finish.${visitId}`, start)
  const [tried, setTried] = useState(false)
  const { schools } = me.firm
  const sheet = useMemo(() => sheetOf(stop, standingOf(stop, state), schools, units, train), [stop, state, schools, units, train])
  const standing = useMemo(() => standingAt(state, sheet, train), [state, sheet, train])
  const place = { stop, visitId, state, today: me.today, person: me.person.name }
  const steps = sheet.ok ? sheet.steps : []
  const mayLeave = (state.work ?? []).some(({ stage }) => !isFitted(steps, state.done.keys(), stage))
  const doubts = useMemo(() => doubtsAfter(page, state), [page, state])
  const kept = typed.kept ?? ''
  const problem = finishProblem({ stop, state, sheet, ...typed, kept, leftStanding: standing, doubts })
  const put = (patch: Partial<Typed>): void => setTyped((before) => ({ ...before, ...patch }))
  const finish = async (): Promise<void> => {
    setTried(true)
    if (problem) return
    await record({
      kind: 'visit-finished',
      siteId: stop.site.id,
      visitId,
      outcome: typed.outcome,
      monitorReset: monitor ? typed.monitorReset : null,
      customerTold: typed.customerTold,
      note: noteOf(typed.note, typed.outcome === 'done' && doubts.length > 0 ? kept : ''),
      leftStanding: standing,
      notRight: typed.outcome === 'not-right' ? doubts.flatMap(({ stageId }) => stageId ?? []) : [],
    })
    forget()
  }
  const { before, after } = state.readings
  const missingAfter = typed.outcome === 'done' && !(after.untreated && after.treated)
  return (
    <Screen
      over={back}
      title={say`Finish`}
      wide
      bottom={<Button label={say`Finish the visit`} kind="act" size="big" grow onPress={() => void finish()} testID="finish" />}
    >
      <Columns>
        <View className="gap-4">
          <Choice label={say`How did it go?`} value={typed.outcome} options={OUTCOMES} onChange={(outcome) => put({ outcome })} />
          <View className="gap-2">
            <T kind="heading" level={2}>
              {say`Readings`}
            </T>
            <ReadingsTable before={before} after={after} />
            {missingAfter && doubts.length === 0 ? (
              <View className="self-start">
                <Button label={say`Measure again`} onPress={() => router.push(`/stop/${stop.id}/measure?phase=after`)} />
              </View>
            ) : null}
          </View>
          {doubts.length > 0 ? (
            <View className="gap-2">
              <AfterDoubts doubts={doubts} />
              <View className="flex-row flex-wrap gap-2">
                <Button label={say`Measure again`} onPress={() => router.push(`/stop/${stop.id}/measure?phase=after`)} />
                {typed.outcome === 'done' ? <Button label={say`Not right yet`} onPress={() => put({ outcome: 'not-right' })} /> : null}
              </View>
              {typed.outcome === 'done' && !doubts.some(({ notDone }) => notDone) ? (
                <Field
                  label={say`Why it is right all the same`}
                  value={kept}
                  onChangeText={(next) => put({ kept: next })}
                  maxLength={300}
                  hint={say`It stands with the visit’s note`}
                />
              ) : null}
            </View>
          ) : null}
          {standing.length > 0 ? (
            <Notice tone="danger" title={say`Not as in service`}>
              {standing.map((text) => (
                <T key={text} kind="strong">
                  {text}
                </T>
              ))}
              <T>
                {say`Put it back before you go: what nothing new went into is left for another day, and the run sheet says how the old parts go back in, and the water. Nothing is put under pressure while a body is open.`}
              </T>
              <PutBack
                stopId={stop.id}
                mayLeave={mayLeave}
                onLeave={(why) => {
                  put({ outcome: typed.outcome === 'done' ? 'partly-done' : typed.outcome })
                  return leaveRest(place, steps, why)
                }}
              />
              <Tick
                label={say`It stays so, and the customer knows`}
                hint={say`It stands on the slip, in the book and at the next visit`}
                value={typed.standsKnown}
                onChange={(standsKnown) => put({ standsKnown })}
              />
            </Notice>
          ) : null}
          <FittedParts place={place} sheet={sheet} />
        </View>
        <View className="gap-4">
          <View className="gap-2">
            <T kind="heading" level={2}>
              {say`Before you go`}
            </T>
            {monitor ? (
              <Tick
                label={say`Monitor reset`}
                hint={say`A reminder nobody reset counts from the wrong day`}
                value={typed.monitorReset}
                onChange={(monitorReset) => put({ monitorReset })}
              />
            ) : null}
            <Tick
              label={say`Customer told`}
              hint={state.holds.length > 0 ? state.holds.map(({ text }) => text).join(' ') : say`What was done, and when you come next`}
              value={typed.customerTold}
              onChange={(customerTold) => put({ customerTold })}
            />
          </View>
          <NoteFault system={stop.system} siteId={stop.site.id} visitId={visitId} />
          <Field
            label={say`Note for the next one here`}
            value={typed.note}
            onChangeText={(note) => put({ note })}
            multiline
            maxLength={2000}
          />
          {tried && problem ? (
            <T kind="strong" role="alert" className="text-oxblood">
              {problem}
            </T>
          ) : null}
        </View>
      </Columns>
    </Screen>
  )
}
