import { plannedContact, schoolsFor, UNIT_SCHOOL } from '@evenround/core/job'
import { unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { figure, inTrade } from '../../ui/format'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import { type Draft, withSchool } from './draft'
import { unitFor } from './part-row'
import { Head, type SectionProps } from './section'
import { SCHOOL_WORDS } from './words'

/** How strong and how long, by a school or by figures of one's own; less or more than usual wants its reason. */
export function Strength({ draft, onChange }: SectionProps) {
  const units = useUnits()
  const unit = draft.targets.includes('drinking-unit')
  const [open, setOpen] = useState(false)
  const set = (patch: Partial<Draft>) => onChange((before) => ({ ...before, ...patch }))
  const demand = (of: keyof Draft['demand'], label: string) => (
    <QuantityField
      label={label}
      dimension="concentration"
      unit="mg/l"
      unitText={unitOf('concentration', units).text}
      value={draft.demand[of]}
      onChange={(value) => onChange((before) => ({ ...before, demand: { ...before.demand, [of]: value ?? 0 } }))}
      className="min-w-[130px] flex-1"
    />
  )
  const planned =
    draft.targetMgL === null || draft.contactHours === null
      ? null
      : plannedContact({ targets: draft.targets, school: draft.school, targetMgL: draft.targetMgL, contactHours: draft.contactHours })
  const less = planned?.less ? planned : null
  return (
    <View className="gap-3">
      <Head text={say`How strong, how long`} />
      {unit ? (
        <T kind="quiet">
          {inTrade(say`A unit on its own: 50 to 100 mg/L for ${UNIT_SCHOOL.contactHours * 60} minutes, elements and membrane out.`, units)}
        </T>
      ) : (
        <>
          <Select
            label={say`Method`}
            value={draft.school}
            none={say`Method`}
            groups={[
              { label: say`Method`, options: schoolsFor(draft.targets).map((value) => ({ value, label: SCHOOL_WORDS[value].name })) },
            ]}
            onChange={(school) => {
              if (school !== '') onChange((before) => withSchool(before, school))
            }}
          />
          <T kind="quiet">{inTrade(SCHOOL_WORDS[draft.school].why, units)}</T>
        </>
      )}
      <View key={draft.school} className="flex-row flex-wrap gap-2">
        <QuantityField
          label={say`Strength`}
          dimension="concentration"
          unit="mg/l"
          unitText={unitOf('concentration', units).text}
          value={draft.targetMgL}
          onChange={(targetMgL) => set({ targetMgL })}
          className="min-w-[130px] flex-1"
        />
        <QuantityField
          label={say`Contact`}
          dimension="number"
          unit=""
          unitText={say`hours`}
          value={draft.contactHours}
          onChange={(contactHours) => set({ contactHours })}
          className="min-w-[130px] flex-1"
        />
      </View>
      {draft.targetMgL !== null && draft.targetMgL > 200 ? (
        <Field
          label={inTrade(say`Why more than 200 mg/L`, units)}
          value={draft.strengthReason}
          onChangeText={(strengthReason) => set({ strengthReason })}
          maxLength={500}
          error={
            draft.strengthReason.trim() === ''
              ? inTrade(say`Over 200 mg/L corrodes, gasses and needs a longer flush: only with a reason written down`, units)
              : undefined
          }
        />
      ) : null}
      {less ? (
        <Field
          label={say`Why less than usual`}
          value={draft.contactReason}
          onChangeText={(contactReason) => set({ contactReason })}
          maxLength={500}
          error={
            draft.contactReason.trim() === ''
              ? inTrade(
                  say`${figure(less.mgHL)} mg·h/L where ${figure(less.usualMgHL)} is usual: only with a reason written down. It stands on the certificate.`,
                  units,
                )
              : undefined
          }
        />
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <QuantityField
          label={say`pH`}
          dimension="number"
          unit=""
          unitText=""
          value={draft.pH}
          onChange={(pH) => set({ pH })}
          className="min-w-[110px] flex-1"
        />
        <QuantityField
          label={say`Water`}
          {...unitFor('temperature', units)}
          least={-2}
          value={draft.waterC}
          onChange={(waterC) => set({ waterC })}
          className="min-w-[110px] flex-1"
        />
      </View>
      <View className="self-start">
        <Button
          label={open ? say`Hide what uses chlorine up` : say`What uses chlorine up: iron, sulphide …`}
          onPress={() => setOpen(!open)}
        />
      </View>
      {open ? (
        <View className="gap-2">
          <T kind="quiet">
            {say`Clear water: nothing. The plan adds twice what chemistry says (for each mg/L iron 0.64, manganese 1.3, sulphide 2.1, ammonia 7.6); the first strip corrects it.`}
          </T>
          {draft.demand.sulphideMgL > 0 ? (
            <T kind="quiet">
              {say`Sulphide: the figure takes it to sulphur and about half way on. All the way to sulphate it eats four times the 2.1: read a strip again after half an hour.`}
            </T>
          ) : null}
          {draft.demand.ammoniaNMgL > 0 ? (
            <T kind="quiet">
              {say`Ammonia: 7.6 is the breakpoint. Below it a strip for total chlorine shows colour while hardly any of it is free: read free chlorine, and again after half an hour.`}
            </T>
          ) : null}
          <View className="flex-row flex-wrap gap-2">
            {demand('ironMgL', say`Iron`)}
            {demand('manganeseMgL', say`Manganese`)}
            {demand('sulphideMgL', say`Sulphide`)}
            {demand('ammoniaNMgL', say`Ammonia, as N`)}
            {demand('otherMgL', say`Slime and other, as chlorine`)}
          </View>
        </View>
      ) : null}
    </View>
  )
}
