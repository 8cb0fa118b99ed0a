import { useState } from 'react'
import { View } from 'react-native'
import type { Job } from '../../data/job'
import { endContact, type JobPlace, recordRedose, recordStrip } from '../../data/job-acts'
import { useNow } from '../../data/now'
import { useUnits } from '../../data/units'
import { StripLadder } from '../../parts/quantity/strip-ladder'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { duration, figure } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import { contactView, redoseAmount } from './contact-view'
import { TideDrawing } from './tide'
import { amountText } from './words'

interface ContactProps {
  job: Job
  place: JobPlace
  clock: (instant: string) => string
}

const MINUTE_MS = 60_000

/** The contact clock with its strips: how long, how strong, how much is in, and what is to be done. */
export function Contact({ job, place, clock }: ContactProps) {
  const now = useNow(MINUTE_MS)
  const units = useUnits()
  const [width, setWidth] = useState(0)
  const { tide, plan } = job.state
  if (!tide || !plan || !job.figures) return null
  const view = contactView(tide, job.state, now, clock)
  const waited = Math.max(0, (Date.parse(now) - Date.parse(tide.from)) / MINUTE_MS)
  const last = tide.points.at(-1)
  const weakest = plan.outlets.find(({ id }) => id === tide.place)?.name
  const amount = view.redoseMgL === null ? null : redoseAmount(view.redoseMgL, job.figures.totalL, job.figures.strength.available)
  return (
    <View className="gap-4" testID="tide">
      <View className="flex-row items-end justify-between gap-3">
        <View>
          <T kind="figure">{duration(waited)}</T>
          <T kind="quiet">{`of ${figure(plan.contactHours)} h · earliest end ${clock(tide.earliestEnd)}`}</T>
        </View>
        <View className="items-end">
          <T kind="figure" className="text-[32px]">
            {figure(last?.mgL ?? 0)}
          </T>
          <T kind="quiet">{`mg/L, ${(last?.minute ?? 0) > 0 ? `strip ${clock(last?.at ?? tide.from)}` : 'on arrival'}`}</T>
        </View>
      </View>
      <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
        {width > 0 ? (
          <TideDrawing tide={tide} targetMgL={plan.targetMgL} hours={plan.contactHours} now={now} width={width} clock={clock} />
        ) : null}
        {weakest ? <T kind="small">{`Drawn for ${weakest}, the weakest outlet read: it decides. Dashed is only expected.`}</T> : null}
      </View>
      <Notice tone={view.tone} title={view.title} live>
        <T>{view.text}</T>
      </Notice>
      {amount !== null ? (
        <Button
          label={`Dosed again: ${amountText(amount, job.figures.unit, units)} of ${plan.productName}`}
          onPress={() => void recordRedose(place, amount, job.figures?.unit ?? 'mL')}
        />
      ) : null}
      <ReadStrip job={job} place={place} />
      {view.mayEnd ? (
        <Button label="End the contact: flush" kind="act" size="big" onPress={() => void endContact(place, null)} />
      ) : (
        <EndAnyway place={place} />
      )}
    </View>
  )
}

function ReadStrip({ job, place }: { job: Job; place: JobPlace }) {
  const { plan, tide } = job.state
  const [open, setOpen] = useState(false)
  const [mgL, setMgL] = useState<number | null>(null)
  const [where, setWhere] = useState(tide?.place ?? 'entry')
  if (!plan) return null
  if (!open)
    return (
      <Button
        label="Read a strip"
        kind={job.state.tide?.result?.verdict === 'pass' ? 'plain' : 'act'}
        size="big"
        onPress={() => setOpen(true)}
      />
    )
  const save = async (): Promise<void> => {
    if (mgL === null) return
    await recordStrip(place, { place: where, purpose: 'contact', range: 'high', mgL, dilution: 1 })
    setOpen(false)
    setMgL(null)
  }
  return (
    <View className="gap-3 rounded-card border-2 border-kelp bg-sheet p-4">
      <Select
        label="Read at"
        value={where}
        none="Read at"
        groups={[{ label: 'Outlets', options: plan.outlets.map(({ id, name }) => ({ value: id, label: name })) }]}
        onChange={(next) => {
          if (next !== '') setWhere(next)
        }}
      />
      <T kind="quiet">
        High range first: a low-range strip bleaches out in strong chlorine and looks like nothing. Over 200, thin it and multiply.
      </T>
      <StripLadder label="Free chlorine" range="high" value={mgL} onChange={setMgL} />
      <View className="flex-row gap-2">
        <Button label="Not now" onPress={() => setOpen(false)} />
        <Button label="Keep this strip" kind="act" grow disabled={mgL === null} onPress={() => void save()} />
      </View>
    </View>
  )
}

/** Ended all the same: the certificate says so. */
function EndAnyway({ place }: { place: JobPlace }) {
  const [open, setOpen] = useState(false)
  const [reason, setReason] = useState('')
  if (!open) return <Button label="It has to end now" onPress={() => setOpen(true)} />
  return (
    <View className="gap-2 rounded-card border-2 border-oxblood p-3">
      <T>Not enough contact yet: the certificate will say so, and the sample may well be positive. Longer is better than stronger.</T>
      <Field label="Why it ends now" value={reason} onChangeText={setReason} maxLength={300} />
      <View className="flex-row gap-2">
        <Button label="Go on waiting" onPress={() => setOpen(false)} />
        <Button label="End it" kind="danger" disabled={reason.trim() === ''} onPress={() => void endContact(place, reason.trim())} />
      </View>
    </View>
  )
}
