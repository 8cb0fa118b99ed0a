import { REDOSE } from '@evenround/core/job'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import type { Job } from '../../data/job'
import { endContact, type JobPlace, recordRedose, recordStrip } from '../../data/job-acts'
import { useNow } from '../../data/now'
import { useUnits } from '../../data/units'
import { StripLadder } from '../../parts/quantity/strip-ladder'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { duration, figure, inTrade } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import { contactView } from './contact-view'
import { protectedThings } from './job-view'
import { TideDrawing } from './tide'
import { amountText } from './words'

interface ContactProps {
  job: Job
  place: JobPlace
  clock: (instant: string) => string
  /** The scale is open; its button stands under the thumb. */
  reading: boolean
  onReading: (open: boolean) => void
}

const MINUTE_MS = 60_000

/** The contact clock with its strips: how long, how strong, how much is in, and what is to be done. */
export function Contact({ job, place, clock, reading, onReading }: ContactProps) {
  const now = useNow(MINUTE_MS)
  const units = useUnits()
  const [width, setWidth] = useState(0)
  const { tide, plan } = job.state
  if (!tide || !plan || !job.figures) return null
  const { totalL, strength, unit } = job.figures
  const nameOf = (placeId: string): string => plan.outlets.find(({ id }) => id === placeId)?.name ?? say`the entry`
  const view = contactView(tide, now, { totalL, available: strength.available }, clock, nameOf)
  const { redose } = view
  const waited = Math.max(0, (Date.parse(now) - Date.parse(tide.from)) / MINUTE_MS)
  const last = tide.points.at(-1)
  // What was added since the last strip: that strip says nothing of it yet.
  const redosed = job.state.doses.findLast(({ stepKey, at }) => stepKey === REDOSE && last !== undefined && at > last.at)
  const weakest = plan.outlets.find(({ id }) => id === tide.place)?.name
  return (
    <View className="gap-4" testID="tide">
      <View className="flex-row items-end justify-between gap-3">
        <View>
          <T kind="figure">{duration(waited)}</T>
          <T kind="quiet">{say`of ${figure(tide.asked.hours)} h · earliest end ${clock(tide.earliestEnd)}`}</T>
        </View>
        <View className="items-end">
          <T kind="figure" className="text-[32px]">
            {figure(last?.mgL ?? 0)}
          </T>
          <T kind="quiet">{`${inTrade('mg/L', units)}, ${(last?.minute ?? 0) > 0 ? say`strip ${clock(last?.at ?? tide.from)}` : say`on arrival`}`}</T>
        </View>
      </View>
      <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
        {width > 0 ? (
          <TideDrawing tide={tide} targetMgL={plan.targetMgL} hours={tide.asked.hours} now={now} width={width} clock={clock} />
        ) : null}
        {weakest ? <T kind="small">{say`Drawn for ${weakest}, the weakest outlet read: it decides. Dashed is only expected.`}</T> : null}
      </View>
      <Notice tone={view.tone} title={inTrade(view.title, units)} live>
        <T>{inTrade(view.text, units)}</T>
      </Notice>
      {redose === null ? null : redosed ? (
        <T kind="strong">{say`Dosed again at ${clock(redosed.at)}: run every outlet again, then read a strip.`}</T>
      ) : (
        <Button
          label={say`Dosed again: ${amountText(redose, unit, units)} of ${plan.productName}`}
          onPress={() => void recordRedose(place, redose, unit)}
        />
      )}
      {reading ? <ReadStrip job={job} place={place} onDone={() => onReading(false)} /> : null}
      {view.mayEnd ? null : <EndAnyway place={place} />}
    </View>
  )
}

function ReadStrip({ job, place, onDone }: { job: Job; place: JobPlace; onDone: () => void }) {
  const { plan, tide } = job.state
  const [mgL, setMgL] = useState<number | null>(null)
  const [where, setWhere] = useState(tide?.place ?? 'entry')
  if (!plan) return null
  const save = async (): Promise<void> => {
    if (mgL === null) return
    await recordStrip(place, { place: where, purpose: 'contact', range: 'high', mgL, dilution: 1 })
    onDone()
  }
  return (
    <View className="gap-3 rounded-card border-2 border-kelp bg-sheet p-4">
      <Select
        label={say`Read at`}
        value={where}
        none={say`Read at`}
        groups={[{ label: say`Outlets`, options: plan.outlets.map(({ id, name }) => ({ value: id, label: name })) }]}
        onChange={(next) => {
          if (next !== '') setWhere(next)
        }}
      />
      <T kind="quiet">
        {say`High range first: a low-range strip bleaches out in strong chlorine and looks like nothing. Over 200, thin it and multiply.`}
      </T>
      <StripLadder label={say`Free chlorine`} range="high" value={mgL} onChange={setMgL} />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Not now`} onPress={onDone} />
        <Button label={say`Keep this strip`} kind="act" grow disabled={mgL === null} onPress={() => void save()} />
      </View>
    </View>
  )
}

/** Ended all the same: the certificate says so. */
function EndAnyway({ place }: { place: JobPlace }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (!open) return <Button label={say`It has to end now`} onPress={() => setOpen(true)} />
  return (
    <View className="gap-2 rounded-card border-2 border-oxblood p-3">
      <T>{say`Not enough contact yet: the certificate will say so, and the sample may well be positive. Longer is better than stronger.`}</T>
      <Field label={say`Why it ends now`} value={reason} onChangeText={setReason} maxLength={300} />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Go on waiting`} onPress={() => setOpen(false)} />
        <Button label={say`End it`} kind="danger" disabled={reason.trim() === ''} onPress={() => void endContact(place, reason.trim())} />
      </View>
    </View>
  )
}

/** The acts under the thumb while the clock runs. */
export function ContactActs({
  job,
  place,
  reading,
  onReading,
  off,
  onOff,
}: Omit<ContactProps, 'clock'> & { off: boolean; onOff: () => void }) {
  const pass = job.state.tide?.result?.verdict === 'pass'
  if (reading) return null
  return (
    <>
      {pass ? (
        <Button label={say`Read a strip`} size="big" onPress={() => onReading(true)} />
      ) : (
        <Button label={off ? say`Hide` : say`What is off`} size="big" onPress={onOff} />
      )}
      {pass ? (
        <Button label={say`End the contact: flush`} kind="act" size="big" grow onPress={() => void endContact(place, null)} />
      ) : (
        <Button label={say`Read a strip`} kind="act" size="big" grow onPress={() => onReading(true)} />
      )}
    </>
  )
}

/** What was shut, taken out or gone round for the chlorine, so that nobody switches it on meanwhile. */
export function WhatIsOff({ job }: { job: Job }) {
  const things = protectedThings(job.guarded)
  const heater = job.plan?.heater ?? 'none'
  return (
    <View className="gap-1 rounded-card border-2 border-line bg-sheet px-4 py-3">
      {things.map(({ id, systemName, text }) => (
        <T key={id}>
          <T kind="strong">{`${systemName}: `}</T>
          {text}
        </T>
      ))}
      {heater === 'none' ? null : (
        <T>{say`Water heater off${heater === 'bypass' ? say` and bypassed` : ''} until it is filled with clean water.`}</T>
      )}
      {things.length === 0 && heater === 'none' ? <T>{say`Nothing was shut or taken out.`}</T> : null}
    </View>
  )
}
