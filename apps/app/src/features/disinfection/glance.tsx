import type { JobPlan } from '@evenround/core/disinfection'
import { contactAsked, FIRST, type Guarded, type JobFigures, plannedContact, schoolsSideBySide, supplies } from '@evenround/core/job'
import type { ShownUnits } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { duration, figure, inTrade, quantity, shortDay } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { protectedThings } from './job-view'
import { amountText, DISCHARGE_WORDS, REFUSAL_WORDS, SCHOOL_WORDS, sayStep, shiftText, THUMB_WORDS } from './words'

const DOSE_WORDS = { whole: '', cold: say`through the cold side`, hot: say`again for the hot side` } as const

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
  const cannot = guarded.flatMap(({ systemId, systemName, protection }) =>
    protection.cannot.map((text) => ({ systemId, systemName, text })),
  )
  const found = guarded.flatMap(({ protection }) => protection.findings)
  return (
    <View className="gap-4" testID="glance">
      {figures.refusals.map((refusal) => (
        <Notice key={refusal} tone="danger" title={say`Cannot proceed`}>
          <T>{inTrade(REFUSAL_WORDS[refusal], units)}</T>
        </Notice>
      ))}
      <View className="gap-1 rounded-card border-2 border-kelp bg-sheet p-4">
        <T kind="quiet">
          {figures.computed ? say`For ${quantity(figures.totalL, 'volume', units)} of water` : say`Not computed: the volume is not known`}
        </T>
        <T kind="figure" testID="dose">
          {first ? amountText(first.amount, figures.unit, units) : '–'}
        </T>
        <T kind="strong">
          {`${plan.productName}${figures.doses.length > 1 ? `, ${figures.doses.map(({ id, amount }, index) => (index === 0 ? DOSE_WORDS[id] : `${amount === first?.amount ? say`the same` : amountText(amount, figures.unit, units)} ${DOSE_WORDS[id]}`)).join(', ')}` : ''}`}
        </T>
        <T>
          {inTrade(
            say`${wayIn(figures, guarded, units)} · ${figure(plan.targetMgL)} mg/L for ${figure(contactAsked(plan).hours)} h`,
            units,
          )}
        </T>
        {plan.school === 'by-depth' ? (
          <T kind="strong" className="text-copper-text">
            {inTrade(say`From this jug that gives ${figure(figures.givesMgL)} mg/L.`, units)}
          </T>
        ) : null}
        <T kind="quiet">{inTrade(say`Method: ${SCHOOL_WORDS[plan.school].name}. ${SCHOOL_WORDS[plan.school].why}`, units)}</T>
      </View>
      {figures.shifts.length > 0 || figures.thumbs.length > 0 ? (
        <View className="gap-1">
          <T kind="heading" level={2}>
            {say`What changed the number`}
          </T>
          {figures.shifts.map((shift) => (
            <T key={shift.of}>{`${shiftText(shift)}.`}</T>
          ))}
          {figures.thumbs.map(({ id, amount, givesMgL }) => (
            <T key={id} kind="quiet">
              {inTrade(say`${THUMB_WORDS[id]}: ${amountText(amount, 'mL', units)} of this jug would give ${figure(givesMgL)} mg/L.`, units)}
            </T>
          ))}
        </View>
      ) : null}
      <OtherSchools plan={plan} unit={figures.unit} />
      <Warnings plan={plan} figures={figures} />
      <View className="gap-1">
        <T kind="heading" level={2}>
          {say`Protect`}
        </T>
        {cannot.map(({ systemId, systemName, text }) => (
          <Notice key={systemName + text} tone="danger" title={systemName}>
            <T>{text}</T>
            <TextLink href={`/system/${systemId}`} label={say`Add it to the plumbing`} />
            <T kind="small">{say`Where it cannot be added, take this system out of the job under “Systems of this site”, and say why.`}</T>
          </Notice>
        ))}
        {things.map(({ id, systemName, text }) => (
          <T key={id}>
            <T kind="strong">{`${systemName}: `}</T>
            {text}
          </T>
        ))}
        {(plan.leftOut ?? []).map(({ systemId, reason }) => (
          <T key={systemId} kind="quiet">{say`A system is left out: ${reason}`}</T>
        ))}
        {things.length === 0 && cannot.length === 0 ? (
          <T kind="quiet">{say`Nothing of this site’s plumbing stands in the way of the chlorine.`}</T>
        ) : null}
        {plan.heater === 'none' ? null : (
          <T>
            {plan.heater === 'bypass'
              ? say`Water heater: off, bypassed; its hot pipes are dosed all the same.`
              : say`Water heater: off; the hot side has its own dose. Full before it heats again.`}
          </T>
        )}
        {things.length === 0 ? null : (
          <T kind="small" className={found.length === 0 ? 'text-lichen-text' : 'text-oxblood'}>
            {found.length === 0
              ? say`Played through: no chlorine reaches what it harms, nothing heats dry.`
              : say`Played through: ${found.map(({ text }) => text).join('; ')}`}
          </T>
        )}
      </View>
      <View className="gap-1">
        <T kind="heading" level={2}>
          {say`Bring`}
        </T>
        {supplies(plan, figures, guarded).map(({ id, text, values }) => (
          <T key={id}>{`· ${sayStep(text, values, figures.unit, units)}`}</T>
        ))}
      </View>
      <View className="gap-1">
        <T kind="heading" level={2}>
          {say`Afterwards and when`}
        </T>
        <T>{say`${DISCHARGE_WORDS[plan.discharge]}: about ${quantity(figures.flush.totalLitres, 'volume', units)}${figures.flush.totalMinutes > 0 ? say`, ${duration(figures.flush.totalMinutes)} at ${quantity(plan.flowLMin, 'flow', units)}` : ''}.`}</T>
        {plan.outlets.some(({ assumed }) => assumed) ? (
          <T kind="small" className="text-copper-text">
            {say`Pipe assumed at: ${plan.outlets.flatMap(({ name, assumed }) => (assumed ? [name] : [])).join(', ')}. The times to them are guesses.`}
          </T>
        ) : null}
        <T>{visitsText(plan, today)}</T>
      </View>
      <T kind="small">{FIRST()}</T>
    </View>
  )
}

/** How it goes in: in a bucket of water, or (a unit on its own) measured into its open housing. */
function wayIn(figures: JobFigures, guarded: readonly Guarded[], units: ShownUnits): string {
  if (guarded.some(({ protection }) => protection.dosedIn !== null)) return say`measured into the first housing, shut off and open`
  const parts = figures.doses[0]?.parts ?? 1
  return say`in ${quantity(figures.bucketL, 'volume', units)} of water, water first${parts > 1 ? say`; in ${parts} parts with the fill, each thinned so` : ''}`
}

function visitsText(plan: JobPlan, today: string): string {
  const dose = say`${shortDay(plan.day, today)} the chlorine goes in`
  const { hours } = contactAsked(plan)
  const flush = hours < 2 ? say`flushed the same day` : say`the flush no sooner than ${figure(hours)} h after the last tap has it`
  return plan.sample
    ? say`Three visits: ${dose}; ${flush}; the sample 5 to 7 days after the flush.`
    : `${hours < 2 ? say`One visit` : say`Two visits`}: ${dose}; ${flush}.`
}

function Warnings({ plan, figures }: { plan: JobPlan; figures: JobFigures }) {
  const units = useUnits()
  const { warnings, activeShare } = figures
  const asked = contactAsked(plan)
  const planned = plannedContact(plan)
  const share = `${Math.round(activeShare * 100)} %`
  const slowly = warnings.includes('ph-high')
    ? say`At pH ${figure(plan.pH)} only ${share} of the chlorine is in its strong form.`
    : say`At ${figure(plan.waterC)} °C chlorine works slowly.`
  return (
    <>
      {asked.slowWater ? (
        <Notice tone="look" title={say`Slow water: ${figure(asked.hours)} h instead of ${figure(plan.contactHours)}`}>
          <T>{say`${slowly} Twice the time and twice the contact are asked for; more chlorine does not take the place of time.`}</T>
        </Notice>
      ) : (
        <T kind="quiet">{say`At pH ${figure(plan.pH)} and ${figure(plan.waterC)} °C ${share} of it is in its strong form.`}</T>
      )}
      {warnings.includes('strength-over-200') ? (
        <Notice tone="danger" title={inTrade(say`Over 200 mg/L`, units)}>
          <T>{say`Corrosion, gas, and a longer flush. Reason: ${plan.strengthReason ?? say`none is written down yet`}`}</T>
        </Notice>
      ) : null}
      {planned.less ? (
        <Notice tone="look" title={inTrade(say`${figure(planned.mgHL)} mg·h/L, less than the usual ${figure(planned.usualMgHL)}`, units)}>
          <T>{say`Reason: ${plan.contactReason ?? say`none is written down yet`}`}</T>
        </Notice>
      ) : null}
      {warnings.includes('by-depth-under-50') ? (
        <Notice
          tone="look"
          title={inTrade(say`By depth this ends at ${figure(figures.givesMgL - figures.demandMgL)} mg/L, under 50`, units)}
        >
          <T>{say`The rule of thumb is meant for a jug of 5 % in clear water. Take the computed dose, or a fresher jug.`}</T>
        </Notice>
      ) : null}
      {warnings.includes('product-old') ? (
        <Notice tone="look" title={say`This jug has lost over four tenths`}>
          <T>{say`A fresh one is safer, or try it with a strip: one part in a thousand of water.`}</T>
        </Notice>
      ) : null}
      {warnings.includes('product-thickened') ? (
        <Notice tone="danger" title={say`Thickened product`}>
          <T>{say`It does not mix into a well and does not rinse out. Plain, unscented hypochlorite only.`}</T>
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
        {say`Other methods, the same water`}
      </T>
      {others.map(({ school, targetMgL, contactHours, amount, doses }) => (
        <T key={school} kind="quiet">
          <T kind="label">{`${SCHOOL_WORDS[school].name}: `}</T>
          {inTrade(
            say`${doses > 1 ? say`twice ` : ''}${amountText(amount, unit, units)}, ${figure(targetMgL)} mg/L, ${figure(contactHours)} h`,
            units,
          )}
        </T>
      ))}
    </View>
  )
}
