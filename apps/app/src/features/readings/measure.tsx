import type { Schools } from '@evenround/contract/firm'
import type { StopDto, StopPageDto } from '@evenround/contract/site'
import { LIFTED } from '@evenround/core/train'
import { unitOf } from '@evenround/core/units'
import { readingKey, type StageReading, type TdsReading, type VisitBegun, type VisitState } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useMemo, useRef, useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { standIns } from '../../data/instruments/stand-ins'
import { useLocal } from '../../data/local'
import { type NewFact, record } from '../../data/outbox'
import { useMe, useSignInHints, useStop } from '../../data/queries'
import { useMay } from '../../data/rights'
import { useUnits } from '../../data/units'
import { useVisit, useVisitOfStop } from '../../data/visit'
import { changeWork } from '../../data/visit-acts'
import { doubtsAfter } from '../../parts/visit/after'
import { AfterDoubts } from '../../parts/visit/after-doubts'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Columns } from '../../ui/columns'
import { Field } from '../../ui/field'
import { bare } from '../../ui/format'
import { localDecimal } from '../../ui/locale'
import { ReadOnly } from '../../ui/read-only'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { ActHere, type Acts, withActs } from './act-here'
import { tdsFields } from './facts'
import { Gauges, Told } from './gauges'
import {
  cleanFlows,
  effects,
  factValues,
  type GaugeContext,
  type GaugeDraft,
  type GaugeName,
  gaugesOf,
  membraneDoubted,
  NOTHING_READ,
  type ReadGauges,
  readGauges,
  stageDues,
} from './gauges-view'
import { InstrumentBar } from './instruments'
import { blocker, type Draft, EMPTY_DRAFT, type Judgement, judge, type Meter, typedInto, USUAL_METER, WATERS, type Water } from './judge'
import { MeterSettings } from './meter-settings'
import { samplingHint } from './sampling'
import { SpentHere, withAdded } from './spent-here'
import { standInSite } from './stand-in-site'
import { TwoWaters } from './two-waters'
import { Doubts, FitFor, Verdict } from './verdict'

type Phase = 'before' | 'after'
/** The sheet's engine this visit begins with; a later one waits until the visit is closed. */
const ENGINE_VERSION = 1

/** Measure first (or again after the work): two numbers, one bar, one sentence. */
export function Measure({ id, phase }: { id: string; phase: Phase }) {
  const page = useStop(id)
  const me = useMe()
  const mayRecord = useMay('record-facts')
  const stop = page.data?.stop
  const visitId = useVisitOfStop(stop)
  const visit = useVisit(visitId)
  const back = <BackLink href={`/stop/${id}`} label={stop?.site.name ?? say`The stop`} />
  const title = phase === 'before' ? say`Water in, water out` : say`Measured again`
  if (!mayRecord && me.data) return <ReadOnly over={back} title={title} />
  if (!page.data || !me.data || !visit.ready) {
    return (
      <Screen over={back} title={title}>
        {page.error && !page.data ? (
          <Failed what={say`This stop cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading earlier readings`} />
        )}
      </Screen>
    )
  }
  const pair = visit.state.readings[phase]
  return (
    <MeasureForm
      back={back}
      title={title}
      page={page.data}
      schools={me.data.firm.schools}
      state={visit.state}
      work={visit.state.work?.map(({ stage }) => stage)}
      today={me.data.today}
      phase={phase}
      visitId={visitId}
      known={pair}
    />
  )
}

/** The stop with what went in at this visit: a new part is judged as new, not by the one it took the place of. */
function withFitted(page: StopPageDto, { fitted }: VisitState, today: string): StopPageDto {
  if (fitted.size === 0) return page
  const { stop } = page
  const stages = stop.system.stages.map((stage) => {
    const now = fitted.get(stage.id)
    return now ? { ...stage, part: { partNumber: now.partNumber, fittedOn: today, dateKnown: true, rated: now.rated } } : stage
  })
  return { ...page, stop: { ...stop, system: { ...stop.system, stages } } }
}

interface MeasureFormProps {
  back: React.ReactNode
  title: string
  page: StopPageDto
  schools: Schools
  state: VisitState
  /** Stages of today's work as it is now; undefined before it began. */
  work: readonly string[] | undefined
  today: string
  phase: Phase
  visitId: string | null
  known: { untreated: TdsReading | null; treated: TdsReading | null }
}

const typedOf = (reading: TdsReading | null) =>
  reading === null
    ? EMPTY_DRAFT.untreated
    : {
        text: String(reading.display),
        timesTen: reading.multiplier === 10,
        settled: reading.settled,
        kept: reading.keptDespiteDoubt ? `${reading.display}/${reading.multiplier}` : null,
      }

function MeasureForm({ back, title, page: asPlanned, schools, state, work, today, phase, visitId, known }: MeasureFormProps) {
  const router = useRouter()
  const page = useMemo(() => withFitted(asPlanned, state, today), [asPlanned, state, today])
  const { stageReadings } = state
  const { stop, history } = page
  const units = useUnits()
  const start: Draft = {
    untreated: typedOf(known.untreated),
    treated: typedOf(known.treated),
    temperature: known.untreated?.temperatureC == null ? '' : bare(known.untreated.temperatureC, 'temperature', units),
  }
  const [draft, setDraft, forget] = useLocal<Draft>(`even-round.measure.${stop.id}.${phase}`, start)
  const [meter, setMeter] = useLocal<Meter>('even-round.meter', USUAL_METER)
  const [asked, setAsked] = useState(false)
  const [added, setAdded] = useLocal<readonly string[]>(`even-round.added.${stop.id}`, [])
  const [acts, setActs] = useLocal<Acts>(`even-round.acts.${stop.id}`, {})
  const planned = withActs(withAdded(stop, added), acts)
  const [where, setWhere] = useLocal<VisitBegun['place']>(`even-round.where.${stop.id}`, null)
  const gauges = gaugesOf(stop, units)
  const [dials, setDials, forgetDials] = useLocal<GaugeDraft>(`even-round.gauges.${stop.id}.${phase}`, {})
  const judgement = judge(draft, meter, stop, history, schools, today, localDecimal(), units)
  const judged = (water: Water): number | null => (judgement[water].doubt ? null : (judgement[water].result?.tdsMgL ?? null))
  const context = {
    tdsMgL: { untreated: judged('untreated'), treated: judged('treated') },
    units,
    phase,
    cleanFlow: cleanFlows(page),
    decimal: localDecimal(),
    counter: page.counter,
    nowMs: Date.now(),
  }
  const read = readGauges(gauges, dials, context)
  const byWaters = effects(page, NOTHING_READ, {}, null, context)
  const all = effects(page, read, dials, judgement.temperature.value, context)
  const told = all.filter(({ stageId, text }) => !byWaters.some((one) => one.stageId === stageId && one.text === text))
  const wanting = blocker(judgement) ?? gaugeBlocker(read)
  // Instruments of a demo measure the demo's water; real ones would come from what this device is paired with.
  const demo = (useSignInHints().data?.people.length ?? 0) > 0
  const standIn = useMemo(() => (demo ? standIns(standInSite(page, phase), Date.now) : null), [demo, page, phase])
  const dial = (name: GaugeName) => gauges.find((gauge) => gauge.name === name)
  const fill = (name: GaugeName, text: string): void => {
    const id = dial(name)?.id
    if (id !== undefined) setDials((before) => ({ ...before, [id]: text }))
  }
  // A thumb that taps twice means it once: two beginnings would be two visits.
  const going = useRef(false)
  const once = async (go: () => Promise<unknown>): Promise<void> => {
    if (going.current) return
    going.current = true
    try {
      await go()
    } finally {
      going.current = false
    }
  }
  const goOn = async (): Promise<void> => {
    setAsked(true)
    if (wanting) return
    await save({ stop: planned, where, draft, meter, judgement, phase, visitId, known, read, dials, stageReadings, context })
    forget()
    forgetDials()
    router.push(`/stop/${stop.id}/sheet`)
  }
  const skip = async (): Promise<void> => {
    if (visitId === null) await record(begin(planned, uuidv7(), where))
    router.push(`/stop/${stop.id}/sheet`)
  }
  const bottom = (
    <>
      {phase === 'before' ? (
        <Button label={say`Skip`} hint={say`Goes on without readings`} size="big" onPress={() => void once(skip)} />
      ) : null}
      <Button
        label={phase === 'before' ? say`To the run sheet` : say`Back to the run sheet`}
        kind="act"
        size="big"
        grow
        onPress={() => void once(goOn)}
        testID="measured"
      />
    </>
  )
  return (
    <Screen over={back} title={title} bottom={bottom} wide>
      <Columns>
        <View className="gap-4">
          <TwoWaters draft={draft} meter={meter} judgement={judgement} onChange={setDraft} />
          {standIn ? (
            <InstrumentBar
              instruments={standIn}
              has={{ counter: true, lamp: dial('lampHours') !== undefined, chlorine: dial('chlorineAfterMgL') !== undefined }}
              onWater={(water, { display, timesTen, temperatureC, settled }) =>
                setDraft((before) => ({
                  ...typedInto(before, water, { ...before[water], text: String(display), timesTen, settled }),
                  temperature: bare(temperatureC, 'temperature', units),
                }))
              }
              onCounter={(litres) => fill('counterL', bare(litres, 'volume', units))}
              onLamp={({ hours, intensityPercent }) => {
                fill('lampHours', String(hours))
                fill('intensityPercent', String(intensityPercent))
              }}
              onChlorine={(mgL) => fill('chlorineAfterMgL', String(Math.round(mgL * 100) / 100))}
            />
          ) : null}
          <Field
            label={say`Water temperature`}
            value={draft.temperature}
            onChangeText={(temperature) => setDraft((before) => ({ ...before, temperature }))}
            unit={unitOf('temperature', units).text}
            inputMode="decimal"
            maxLength={8}
            error={judgement.temperature.error ?? undefined}
            hint={
              !meter.compensated && judgement.temperature.value === null
                ? say`Without it nothing is corrected: cold water reads low.`
                : undefined
            }
          />
          {asked && wanting ? (
            <T kind="strong" role="alert" className="text-oxblood">
              {wanting}
            </T>
          ) : null}
          <Doubts judgement={judgement} typed={draft} onChange={(water, typed) => setDraft((before) => ({ ...before, [water]: typed }))} />
          {phase === 'after' ? (
            <AfterDoubts
              doubts={doubtsAfter(page, state, {
                untreatedMgL: judged('untreated'),
                treatedMgL: judged('treated'),
              }).filter(({ why }) => why !== 'not-measured')}
            />
          ) : null}
          <Verdict judgement={judgement} doubted={membraneDoubted(page, judged('untreated'), judged('treated'))} />
        </View>
        <View className="gap-4">
          <SpentHere
            page={page}
            dues={stageDues(page, read, dials, judgement.temperature.value, context)}
            mayAdd={visitId === null && phase === 'before'}
            work={work}
            onTake={visitId === null ? undefined : (stageId, action) => void changeWork({ stop, visitId }, stageId, action, null)}
            added={added}
            onAdd={setAdded}
          />
          {visitId === null && phase === 'before' ? (
            <ActHere stop={planned} onChoose={(stageId, action) => setActs({ ...acts, [stageId]: action })} />
          ) : null}
          {visitId === null && phase === 'before' && mayBeLifted(stop) ? (
            <Choice
              label={say`Where is the work done today?`}
              value={where ?? schools.place ?? 'in-place'}
              options={[
                { value: 'in-place', label: say`In place` },
                { value: 'at-the-bench', label: say`At the bench` },
              ]}
              onChange={setWhere}
            />
          ) : null}
          <FitFor judgement={judgement} />
          <Told effects={byWaters} />
          <Gauges
            gauges={gauges}
            draft={dials}
            read={read}
            effects={told}
            lastCounterL={page.counter?.displayL ?? null}
            units={units}
            onChange={(id, text) => setDials((before) => ({ ...before, [id]: text }))}
          />
          <MeterSettings meter={meter} onChange={setMeter} />
          <T kind="small">{samplingHint(stop.system.stages.map(({ media }) => media))}</T>
        </View>
      </Columns>
    </Screen>
  )
}

/** A set of housings can be lifted off by its lines; a tank, a lamp and an appliance stay where they are. */
const mayBeLifted = ({ system, tasks }: StopDto): boolean =>
  system.stages.some(({ id, housing }) => LIFTED.includes(housing) && tasks.some(({ stageId }) => stageId === id))

/** What keeps a bad gauge from being written down. */
function gaugeBlocker({ errors, counterStep }: ReadGauges): string | null {
  if (errors.size > 0) return say`One of the gauges cannot be read: look at the line under it.`
  return counterStep === 'backward' ? say`The counter shows less than before: look again, or say that it is a new meter.` : null
}

function begin(stop: StopDto, visitId: string, place: VisitBegun['place']): NewFact {
  const { system, site, tasks } = stop
  return {
    kind: 'visit-begun',
    siteId: site.id,
    visitId,
    stopId: stop.id,
    systemId: system.id,
    trainVersion: system.trainVersion,
    engineVersion: ENGINE_VERSION,
    tasks: tasks.map(({ stageId, action }) => ({ stage: stageId, action })),
    place,
  }
}

interface SaveInput {
  stop: StopDto
  where: VisitBegun['place']
  draft: Draft
  meter: Meter
  judgement: Judgement
  phase: Phase
  visitId: string | null
  known: MeasureFormProps['known']
  read: ReadGauges
  dials: GaugeDraft
  stageReadings: VisitState['stageReadings']
  context: GaugeContext
}

/** Begins the visit where it has not begun, and writes each reading; a changed one corrects the earlier. */
async function save({
  stop,
  where,
  draft,
  meter,
  judgement,
  phase,
  visitId,
  known,
  read,
  dials,
  stageReadings,
  context,
}: SaveInput): Promise<void> {
  const visit = visitId ?? uuidv7()
  const facts: NewFact[] = visitId === null ? [begin(stop, visit, where)] : []
  for (const water of WATERS) {
    const reading = tdsFields({ water, draft, judgement, meter })
    if (reading === null) continue
    const earlier = known[water]
    const same = earlier !== null && Object.entries(reading).every(([key, value]) => earlier[key as keyof typeof reading] === value)
    if (!same)
      facts.push({
        kind: 'tds-reading',
        siteId: stop.site.id,
        visitId: visit,
        systemId: stop.system.id,
        phase,
        water,
        ...reading,
        supersedes: earlier?.id ?? null,
      })
  }
  for (const stageId of [null, ...stop.system.stages.map((stage) => stage.id)]) {
    const values = factValues(stageId, read, dials, judgement.temperature.value, context)
    const earlier = stageReadings.get(readingKey(phase, stageId))
    if (!readsAnything(values) || (earlier && sameReading(earlier, values))) continue
    facts.push({
      kind: 'stage-reading',
      siteId: stop.site.id,
      visitId: visit,
      systemId: stop.system.id,
      stageId,
      phase,
      ...values,
      supersedes: earlier?.id ?? null,
    })
  }
  if (facts.length > 0) await record(...facts)
}

const readsAnything = (values: ReturnType<typeof factValues>): boolean => Object.values(values).some((value) => typeof value === 'number')
const sameReading = (earlier: StageReading, values: ReturnType<typeof factValues>): boolean =>
  Object.entries(values).every(([key, value]) => earlier[key as keyof StageReading] === value)
