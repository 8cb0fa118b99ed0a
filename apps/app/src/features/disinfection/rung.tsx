import { arrivedAt, clearLimit, type JobStep, lateAfterMinutes, noArrivalAdvice } from '@evenround/core/job'
import { chose, leftOut, remainingSeconds } from '@evenround/core/visit'
import { caution, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { soundOver } from '../../data/device'
import type { Job } from '../../data/job'
import { beginJobHold, type JobPlace, leaveOutlet, recordDose, recordSmell, recordStrip, startJobClock, tickJob } from '../../data/job-acts'
import { useNow } from '../../data/now'
import { useUnits } from '../../data/units'
import { StripLadder } from '../../parts/quantity/strip-ladder'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { figure, inTrade } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { FoundActs, PartActs } from './rung-parts'
import { amountText, NO_ARRIVAL_WORDS, sayStep } from './words'

interface RungProps {
  step: JobStep
  job: Job
  place: JobPlace
  of: string
}

const timeOfDay = (seconds: number): string => `${Math.floor(seconds / 60)}:${String(Math.floor(seconds % 60)).padStart(2, '0')}`

/** The one step of now, large: what, why, the caution, and one act. */
export function JobRung({ step, job, place, of }: RungProps) {
  const units = useUnits()
  const unit = job.figures?.unit ?? 'mL'
  const inUnits = (text: string): string => sayStep(text, step.values, unit, units)
  return (
    <View className="gap-3 rounded-card border-2 border-kelp bg-sheet p-4" testID="job-rung">
      <T kind="quiet">{`${of}${step.system ? ` · ${step.system}` : ''}`}</T>
      <T kind="title" level={2} className="text-[22px] leading-[28px]">
        {inUnits(step.text)}
      </T>
      <T>{inUnits(step.why)}</T>
      {step.caution ? (
        <Notice tone="danger" title={say`Caution`}>
          <T>{step.caution}</T>
        </Notice>
      ) : null}
      <RungActs step={step} job={job} place={place} />
    </View>
  )
}

function RungActs({ step, job, place }: Omit<RungProps, 'of'>) {
  switch (step.kind) {
    case 'choice':
      return <ChoiceActs step={step} place={place} />
    case 'clock':
      return <ClockActs step={step} job={job} place={place} />
    case 'dose':
      return <DoseActs step={step} job={job} place={place} />
    case 'outlet':
      return <OutletActs step={step} job={job} place={place} />
    case 'clear':
      return <ClearActs step={step} job={job} place={place} />
    case 'hold':
      return (
        <Button
          label={say`The household knows`}
          kind="act"
          size="big"
          onPress={() => void beginJobHold(place, step.key, step.hold ?? 'do-not-use')}
        />
      )
    case 'finding':
      return <FoundActs step={step} job={job} place={place} />
    case 'part':
      return <PartActs step={step} job={job} place={place} />
    default:
      return <TickActs step={step} place={place} />
  }
}

/** Done; or not, and why: it then stands in the record. */
function TickActs({ step, place }: { step: JobStep; place: JobPlace }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (open) {
    return (
      <View className="gap-2">
        <Field label={say`Why it is left out`} value={reason} onChangeText={setReason} maxLength={300} />
        <View className="flex-row flex-wrap gap-2">
          <Button label={say`Back`} onPress={() => setOpen(false)} />
          <Button
            label={say`Leave it out`}
            kind="danger"
            disabled={reason.trim() === ''}
            onPress={() => void tickJob(place, step.key, leftOut(reason.trim()))}
          />
        </View>
      </View>
    )
  }
  return (
    <View className="flex-row flex-wrap gap-2">
      <Button label={say`Can’t do`} size="big" onPress={() => setOpen(true)} />
      <Button label={say`Done`} kind="act" size="big" grow onPress={() => void tickJob(place, step.key)} />
    </View>
  )
}

function ChoiceActs({ step, place }: { step: JobStep; place: JobPlace }) {
  const [acid, setAcid] = useState(false)
  const choose = (id: string): void => {
    if (step.key === 'ready/acid' && id === 'yes' && !acid) setAcid(true)
    else void tickJob(place, step.key, chose(id))
  }
  return (
    <View className="gap-2">
      {acid ? (
        <Notice tone="danger" title={say`Not together`} live>
          <T>
            {caution`Acid and chlorine make a toxic gas. Carry the acid out of the building and the van, air the place, and only then go on. Descaling is another day.`}
          </T>
          <View className="mt-2 self-start">
            <Button label={say`It is out and away`} kind="danger" onPress={() => void tickJob(place, step.key, chose('carried-away'))} />
          </View>
        </Notice>
      ) : null}
      {step.options?.map(({ id, text }) => (
        <Button
          key={id}
          label={text}
          kind={step.options?.length === 2 && step.key.endsWith('/acid') && id !== 'no' ? 'plain' : 'act'}
          size="big"
          onPress={() => choose(id)}
        />
      ))}
    </View>
  )
}

function ClockActs({ step, job, place }: Omit<RungProps, 'of'>) {
  const timer = job.state.timers.get(step.key)
  const now = useNow(timer ? 1000 : null)
  const left = timer ? remainingSeconds(timer, now) : null
  const [sounded, setSounded] = useState(left === 0)
  if (left === 0 && !sounded) {
    setSounded(true)
    soundOver()
  }
  if (left === null) return <Button label={say`Start the clock`} kind="act" size="big" onPress={() => void startJobClock(place, step)} />
  return (
    <View className="gap-2">
      <T kind="figure" role="timer">
        {left > 0 ? timeOfDay(left) : say`Time is over`}
      </T>
      {left > 0 ? <T kind="quiet">{say`It goes on with the phone off, and sounds while this page is open.`}</T> : null}
      <Button
        label={left > 0 ? say`Done earlier` : say`Done`}
        kind={left > 0 ? 'plain' : 'act'}
        size="big"
        onPress={() => void tickJob(place, step.key)}
      />
    </View>
  )
}

function DoseActs({ step, job, place }: Omit<RungProps, 'of'>) {
  const units = useUnits()
  const { dose } = step
  const unit = job.figures?.unit ?? 'mL'
  if (!dose) return null
  return (
    <View className="gap-2">
      <T kind="figure">{amountText(dose.amount, unit, units)}</T>
      <Button label={say`It is in`} kind="act" size="big" onPress={() => void recordDose(place, step.key, dose.amount, unit)} />
    </View>
  )
}

function OutletActs({ step, job, place }: Omit<RungProps, 'of'>) {
  const units = useUnits()
  const [mgL, setMgL] = useState<number | null>(null)
  const [leaving, setLeaving] = useState(false)
  const [reason, setReason] = useState('')
  const { outlet } = step
  const { plan, outlets, timers } = job.state
  const timer = timers.get(step.key)
  const now = useNow(timer ? 1000 : null)
  if (!outlet || !plan) return null
  const state = outlets.find((one) => one.outlet.id === outlet.id)
  const running = timer ? (Date.parse(now) - Date.parse(timer.at)) / 60_000 : null
  const late = running !== null && running > lateAfterMinutes(outlet)
  const others = {
    arrived: outlets.filter(({ arrival }) => arrival === 'confirmed').length,
    short: outlets.filter(({ arrival, outlet: one }) => arrival === 'short' && one.id !== outlet.id).length,
  }
  const short = state?.arrival === 'short' || (mgL !== null && !arrivedAt(mgL, plan.targetMgL))
  const keep = async (): Promise<void> => {
    if (mgL === null) return
    await recordStrip(place, { place: outlet.id, purpose: 'arrival', range: 'high', mgL, dilution: 1 })
    setMgL(null)
  }
  return (
    <View className="gap-3">
      {running === null ? (
        <Button
          label={say`It runs now`}
          onPress={() => void startJobClock(place, { ...step, minutes: Math.max(1 / 60, outlet.pipeL / outlet.flowLMin) })}
        />
      ) : (
        <T kind="strong" role="timer">{say`Runs for ${timeOfDay(running * 60)}`}</T>
      )}
      {state?.arrival === 'unconfirmed' ? (
        <T kind="strong" className="text-copper-text">
          {say`Smelt, not confirmed: a strip decides.`}
        </T>
      ) : null}
      {late || short ? (
        <Notice
          tone="look"
          title={
            late && !short ? say`It should be here by now` : inTrade(say`Under ${figure(0.8 * plan.targetMgL)} mg/L: not there yet`, units)
          }
          live
        >
          {noArrivalAdvice(plan, outlet, others).map((advice) => (
            <T key={advice}>{`· ${NO_ARRIVAL_WORDS[advice]}`}</T>
          ))}
        </Notice>
      ) : null}
      <StripLadder label={say`Strip at ${outlet.name}`} range="high" value={mgL} onChange={setMgL} />
      <Button
        label={short && mgL !== null ? say`Keep this strip, run on` : say`Keep this strip`}
        kind="act"
        size="big"
        disabled={mgL === null}
        onPress={() => void keep()}
      />
      {leaving ? (
        <View className="gap-2">
          <Field
            label={say`Why it is not run`}
            value={reason}
            onChangeText={setReason}
            maxLength={200}
            hint={say`Capped, out of use, no longer there`}
          />
          <View className="flex-row flex-wrap gap-2">
            <Button label={say`Back`} onPress={() => setLeaving(false)} />
            <Button
              label={say`Leave it out`}
              kind="danger"
              disabled={reason.trim() === ''}
              onPress={() => void leaveOutlet(place, outlet.id, reason.trim())}
            />
          </View>
        </View>
      ) : (
        <View className="flex-row flex-wrap gap-2">
          <Button label={say`I only smell it`} onPress={() => void recordSmell(place, outlet.id)} />
          <Button label={say`It cannot be run`} onPress={() => setLeaving(true)} />
        </View>
      )}
    </View>
  )
}

function ClearActs({ step, job, place }: Omit<RungProps, 'of'>) {
  const units = useUnits()
  const [mgL, setMgL] = useState<number | null>(null)
  const { outlet } = step
  const { plan, outlets } = job.state
  if (!outlet || !plan) return null
  const limit = clearLimit(plan)
  const state = outlets.find((one) => one.outlet.id === outlet.id)
  const still = state?.clearMgL ?? null
  const keep = async (): Promise<void> => {
    if (mgL === null) return
    await recordStrip(place, { place: outlet.id, purpose: 'flush', range: 'low', mgL, dilution: 1 })
    setMgL(null)
  }
  return (
    <View className="gap-3">
      {still !== null && still > limit ? (
        <T kind="strong" className="text-copper-text">
          {inTrade(say`Still ${figure(still)} mg/L: run it on, to ${figure(limit)} or less.`, units)}
        </T>
      ) : null}
      <StripLadder label={say`Strip at ${outlet.name}`} range="low" value={mgL} onChange={setMgL} />
      <Button
        label={mgL !== null && mgL > limit ? say`Keep this strip, run on` : say`Keep this strip`}
        kind="act"
        size="big"
        disabled={mgL === null}
        onPress={() => void keep()}
      />
    </View>
  )
}
