import type { JobPlan } from '@evenround/core/disinfection'
import { contactAsked, FIRST, type Guarded, type JobFigures, plannedContact, schoolsSideBySide, supplies } from '@evenround/core/job'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { duration, figure, quantity, shortDay } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { protectedThings } from './job-view'
import { amountText, DISCHARGE_WORDS, REFUSAL_WORDS, SCHOOL_WORDS, sayStep, shiftText, THUMB_WORDS } from './words'

const DOSE_WORDS = { whole: '', cold: 'through the cold side', hot: 'again for the hot side' } as const

/** The result in one glance: how much, in what, for how long, what to protect and to bring, where the water goes, how many visits. */
export function Glance({
  plan,
  figures,
  guarded,
  today,
}: {
  plan: JobPlan
  figures: JobFigures
  guarded: readonly Guarded[]
  today: string
}) {
  const units = useUnits()
  const first = figures.doses[0]
  const things = protectedThings(guarded)
  const cannot = guarded.flatMap(({ systemName, protection }) => protection.cannot.map((text) => ({ systemName, text })))
  const found = guarded.flatMap(({ protection }) => protection.findings)
  return (
    <View className="gap-4" testID="glance">
      {figures.refusals.map((refusal) => (
        <Notice key={refusal} tone="danger" title="Not like this">
          <T>{REFUSAL_WORDS[refusal]}</T>
        </Notice>
      ))}
      <View className="gap-1 rounded-card border-2 border-kelp bg-sheet p-4">
        <T kind="quiet">
          {figures.computed ? `For ${quantity(figures.totalL, 'volume', units)} of water` : 'Not computed: the volume is not known'}
        </T>
        <T kind="figure" testID="dose">
          {first ? amountText(first.amount, figures.unit, units) : '–'}
        </T>
        <T kind="strong">
          {`${plan.productName}${figures.doses.length > 1 ? `, ${figures.doses.map(({ id, amount }, index) => (index === 0 ? DOSE_WORDS[id] : `${amount === first?.amount ? 'the same' : amountText(amount, figures.unit, units)} ${DOSE_WORDS[id]}`)).join(', ')}` : ''}`}
        </T>
        <T>{`in ${quantity(figures.bucketL, 'volume', units)} of water, water first${first && first.parts > 1 ? `; in ${first.parts} parts with the fill` : ''} · ${figure(plan.targetMgL)} mg/L for ${figure(contactAsked(plan).hours)} h`}</T>
        {plan.school === 'by-depth' ? (
          <T kind="strong" className="text-copper-text">{`From this jug that gives ${figure(figures.givesMgL)} mg/L.`}</T>
        ) : null}
        <T kind="quiet">{`School: ${SCHOOL_WORDS[plan.school].name}. ${SCHOOL_WORDS[plan.school].why}`}</T>
      </View>
      {figures.shifts.length > 0 || figures.thumbs.length > 0 ? (
        <View className="gap-1">
          <T kind="heading" level={2}>
            What changed the number
          </T>
          {figures.shifts.map((shift) => (
            <T key={shift.of}>{`${shiftText(shift)}.`}</T>
          ))}
          {figures.thumbs.map(({ id, amount, givesMgL }) => (
            <T
              key={id}
              kind="quiet"
            >{`${THUMB_WORDS[id]}: ${amountText(amount, 'mL', units)} of this jug would give ${figure(givesMgL)} mg/L.`}</T>
          ))}
        </View>
      ) : null}
      <OtherSchools plan={plan} unit={figures.unit} />
      <Warnings plan={plan} figures={figures} />
      <View className="gap-1">
        <T kind="heading" level={2}>
          Protect
        </T>
        {cannot.map(({ systemName, text }) => (
          <Notice key={systemName + text} tone="danger" title={systemName}>
            <T>{text}</T>
          </Notice>
        ))}
        {things.map(({ id, systemName, text }) => (
          <T key={id}>
            <T kind="strong">{`${systemName}: `}</T>
            {text}
          </T>
        ))}
        {things.length === 0 && cannot.length === 0 ? (
          <T kind="quiet">Nothing of this site’s plumbing stands in the way of the chlorine.</T>
        ) : null}
        {plan.heater === 'none' ? null : (
          <T>
            {plan.heater === 'bypass'
              ? 'Water heater: off, bypassed; its hot pipes are dosed all the same.'
              : 'Water heater: off; the hot side has its own dose. Full before it heats again.'}
          </T>
        )}
        {things.length === 0 ? null : (
          <T kind="small" className={found.length === 0 ? 'text-lichen-text' : 'text-oxblood'}>
            {found.length === 0
              ? 'Played through: no chlorine reaches what it harms, nothing heats dry.'
              : `Played through: ${found.map(({ text }) => text).join('; ')}`}
          </T>
        )}
      </View>
      <View className="gap-1">
        <T kind="heading" level={2}>
          Bring
        </T>
        {supplies(plan, figures, guarded).map(({ id, text, values }) => (
          <T key={id}>{`· ${sayStep(text, values, figures.unit, units)}`}</T>
        ))}
      </View>
      <View className="gap-1">
        <T kind="heading" level={2}>
          Afterwards and when
        </T>
        <T>{`${DISCHARGE_WORDS[plan.discharge]}: about ${quantity(figures.flush.totalLitres, 'volume', units)}${figures.flush.totalMinutes > 0 ? `, ${duration(figures.flush.totalMinutes)} at ${quantity(plan.flowLMin, 'flow', units)}` : ''}.`}</T>
        <T>{visitsText(plan, today)}</T>
      </View>
      <T kind="small">{FIRST}</T>
    </View>
  )
}

function visitsText(plan: JobPlan, today: string): string {
  const dose = `${shortDay(plan.day, today)} the chlorine goes in`
  const { hours } = contactAsked(plan)
  const flush = hours < 2 ? 'flushed the same day' : `the flush no sooner than ${figure(hours)} h after the last tap has it`
  return plan.sample
    ? `Three visits: ${dose}; ${flush}; the sample 5 to 7 days after the flush.`
    : `${hours < 2 ? 'One visit' : 'Two visits'}: ${dose}; ${flush}.`
}

function Warnings({ plan, figures }: { plan: JobPlan; figures: JobFigures }) {
  const { warnings, activeShare } = figures
  const asked = contactAsked(plan)
  const planned = plannedContact(plan)
  const share = `${Math.round(activeShare * 100)} %`
  const slowly = warnings.includes('ph-high')
    ? `At pH ${figure(plan.pH)} only ${share} of the chlorine is in its strong form.`
    : `At ${figure(plan.waterC)} °C chlorine works slowly.`
  return (
    <>
      {asked.slowWater ? (
        <Notice tone="look" title={`Slow water: ${figure(asked.hours)} h instead of ${figure(plan.contactHours)}`}>
          <T>{`${slowly} Twice the time and twice the contact are asked for; more chlorine does not take the place of time.`}</T>
        </Notice>
      ) : (
        <T kind="quiet">{`At pH ${figure(plan.pH)} and ${figure(plan.waterC)} °C ${share} of it is in its strong form.`}</T>
      )}
      {warnings.includes('strength-over-200') ? (
        <Notice tone="danger" title="Over 200 mg/L">
          <T>{`Corrosion, gas, and a longer flush. Reason: ${plan.strengthReason ?? 'none is written down yet'}`}</T>
        </Notice>
      ) : null}
      {planned.less ? (
        <Notice tone="look" title={`${figure(planned.mgHL)} mg·h/L, less than the usual ${figure(planned.usualMgHL)}`}>
          <T>{`Reason: ${plan.contactReason ?? 'none is written down yet'}`}</T>
        </Notice>
      ) : null}
      {warnings.includes('product-old') ? (
        <Notice tone="look" title="This jug has lost over four tenths">
          <T>A fresh one is safer, or try it with a strip: one part in a thousand of water.</T>
        </Notice>
      ) : null}
      {warnings.includes('product-thickened') ? (
        <Notice tone="danger" title="Thickened product">
          <T>It does not mix into a well and does not rinse out. Plain, unscented hypochlorite only.</T>
        </Notice>
      ) : null}
    </>
  )
}

/** The same water by the other schools: what one would take, and why one would. */
function OtherSchools({ plan, unit }: { plan: JobPlan; unit: JobFigures['unit'] }) {
  const units = useUnits()
  const others = schoolsSideBySide(plan).filter(({ school }) => school !== plan.school)
  if (others.length === 0) return null
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        Other schools, the same water
      </T>
      {others.map(({ school, targetMgL, contactHours, amount, doses }) => (
        <T key={school} kind="quiet">
          <T kind="label">{`${SCHOOL_WORDS[school].name}: `}</T>
          {`${doses > 1 ? 'twice ' : ''}${amountText(amount, unit, units)}, ${figure(targetMgL)} mg/L, ${figure(contactHours)} h`}
        </T>
      ))}
    </View>
  )
}
