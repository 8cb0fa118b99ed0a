import type { DisinfectionSetup } from '@evenround/contract/disinfections'
import { REASONS, TARGETS, type Target } from '@evenround/core/disinfection'
import { storedIsFit } from '@evenround/core/job'
import { isIsoDay, unitOf } from '@evenround/core/units'
import { caution, say } from '@evenround/core/words'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Button } from '../../ui/button'
import { Choice, Tick } from '../../ui/choice'
import { DayField } from '../../ui/day-field'
import { Field } from '../../ui/field'
import { Notice } from '../../ui/notice'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import { type Draft, newOutlet, newPart, type PartKind, partName, withTargets } from './draft'
import { OutletRow } from './outlet-row'
import { PartRow, unitFor } from './part-row'
import { Head, type SectionProps } from './section'
import { DISCHARGE_WORDS, REASON_WORDS, REFUSAL_WORDS, TARGET_WORDS } from './words'

export function What({ draft, setup, onChange }: SectionProps & { setup: DisinfectionSetup }) {
  const toggle = (target: Target) => (on: boolean) =>
    onChange((before) => {
      // A unit is a job of its own: its elements come out, and the house is not run.
      const others = before.targets.filter((one) => one !== target && (target === 'drinking-unit') === (one === 'drinking-unit'))
      return withTargets(before, on ? [...others, target] : before.targets.filter((one) => one !== target), setup)
    })
  return (
    <View className="gap-3">
      <Head text={say`What, and why`} />
      <View className="flex-row flex-wrap gap-2">
        {TARGETS.map((target) => (
          <View key={target} className="min-w-min grow basis-[46%]">
            <Tick label={TARGET_WORDS[target]} value={draft.targets.includes(target)} onChange={toggle(target)} />
          </View>
        ))}
      </View>
      <Select
        label={say`Reason`}
        value={draft.reason}
        none={say`Reason`}
        groups={[{ label: say`Reason`, options: REASONS.map((value) => ({ value, label: REASON_WORDS[value] })) }]}
        onChange={(reason) => {
          if (reason !== '') onChange((before) => ({ ...before, reason, sample: before.sample || !storedIsFit(reason) }))
        }}
      />
      {draft.reason === 'flood' ? (
        <Notice tone="look" title={say`After a flood`}>
          <T>
            {say`Fuel, oil and pesticide come with floods, and neither chlorine nor boiling takes them out. It is asked at the door: until they are ruled out the household gets bottled water only, and the laboratory is asked for chemicals too.`}
          </T>
        </Notice>
      ) : null}
      <Field
        label={say`Note`}
        value={draft.note}
        onChangeText={(note) => onChange((before) => ({ ...before, note }))}
        maxLength={500}
        hint={say`Sample number, what was repaired`}
      />
    </View>
  )
}

const KINDS: readonly PartKind[] = ['casing', 'upright-cylinder', 'lying-cylinder', 'box', 'pressure-tank', 'pipe', 'known']

export function Water({ draft, onChange }: SectionProps) {
  return (
    <View className="gap-3">
      <Head text={say`The water it stands in`} />
      {draft.parts.map((part) => (
        <PartRow
          key={part.id}
          part={part}
          onChange={(next) => onChange((before) => ({ ...before, parts: before.parts.map((one) => (one.id === next.id ? next : one)) }))}
          onRemove={() => onChange((before) => ({ ...before, parts: before.parts.filter(({ id }) => id !== part.id) }))}
        />
      ))}
      <View className="flex-row flex-wrap gap-2">
        {KINDS.map((kind) => (
          <Button
            key={kind}
            label={`+ ${partName(kind)}`}
            onPress={() => onChange((before) => ({ ...before, parts: [...before.parts, newPart(kind)] }))}
          />
        ))}
        <Button
          label={say`+ Hot pipes`}
          onPress={() => onChange((before) => ({ ...before, parts: [...before.parts, newPart('pipe', 'hot')] }))}
        />
        <Button
          label={say`+ Water heater`}
          onPress={() => onChange((before) => ({ ...before, parts: [...before.parts, newPart('known', 'hot')] }))}
        />
      </View>
    </View>
  )
}

export function Jug({ draft, setup, onChange }: SectionProps & { setup: DisinfectionSetup }) {
  const units = useUnits()
  const product = setup.products.find(({ id }) => id === draft.productId)
  const liquid = product?.form === 'liquid'
  return (
    <View className="gap-3">
      <Head text={say`The chlorine`} />
      <Select
        label={say`Product`}
        value={draft.productId}
        none={say`Product from the shelf`}
        groups={[
          {
            label: say`On the shelf`,
            options: setup.products.map(({ id, name, percent, basis }) => ({
              value: id,
              label: `${name} · ${percent} %${basis ? ` ${basis}` : ''}`,
            })),
          },
        ]}
        onChange={(productId) => {
          const next = setup.products.find(({ id }) => id === productId)
          onChange((before) => ({
            ...before,
            productId,
            filledOn: next?.filledOn ?? before.filledOn,
            storedAtC: next?.storedAtC ?? before.storedAtC,
          }))
        }}
      />
      {product ? (
        <T kind="quiet">
          {liquid
            ? say`${product.percent} % ${product.basis ?? ''}${product.densityKgL ? say`, ${product.densityKgL} kg/L` : ''}, stated as ${product.strengthAs === 'sodium-hypochlorite' ? say`sodium hypochlorite` : say`available chlorine`}`
            : say`${product.percent} % available chlorine, granules: dissolved first, never with liquid products`}
        </T>
      ) : null}
      {liquid ? (
        <View className="flex-row flex-wrap gap-2">
          <DayField
            label={say`Date on the container`}
            value={draft.filledOn}
            onChange={(filledOn) => onChange((before) => ({ ...before, filledOn }))}
            error={isIsoDay(draft.filledOn) ? undefined : say`Choose the day`}
            className="min-w-[150px] flex-1"
          />
          <QuantityField
            label={say`Kept at about`}
            {...unitFor('temperature', units)}
            least={-2}
            value={draft.storedAtC}
            onChange={(storedAtC) => onChange((before) => ({ ...before, storedAtC }))}
            className="min-w-[130px] flex-1"
          />
        </View>
      ) : null}
      {product?.stabilised ? (
        <Notice tone="danger" title={say`Not for water that is drunk`}>
          <T>{REFUSAL_WORDS.stabilised}</T>
        </Notice>
      ) : null}
      {liquid ? (
        <Tick
          label={say`I tried the jug with a strip`}
          hint={say`Thinned with water until a high-range strip can read it; that corrects the label and the age`}
          value={draft.jug !== null}
          onChange={(on) => onChange((before) => ({ ...before, jug: on ? { mgL: null, dilution: 1000 } : null }))}
        />
      ) : null}
      {draft.jug ? (
        <View className="flex-row flex-wrap gap-2">
          <QuantityField
            label={say`The strip showed`}
            dimension="concentration"
            unit="mg/l"
            unitText={unitOf('concentration', units).text}
            value={draft.jug.mgL}
            onChange={(mgL) => onChange((before) => ({ ...before, jug: { mgL, dilution: before.jug?.dilution ?? null } }))}
            className="min-w-[130px] flex-1"
          />
          <QuantityField
            label={say`Thinned`}
            dimension="number"
            unit=""
            unitText={say`times`}
            least={1}
            value={draft.jug.dilution}
            onChange={(dilution) => onChange((before) => ({ ...before, jug: { mgL: before.jug?.mgL ?? null, dilution } }))}
            className="min-w-[130px] flex-1"
          />
        </View>
      ) : null}
    </View>
  )
}

/** Which of the site's systems are in the job: the chlorine passes them or they are shut off; one that is left out says why. */
export function Systems({ draft, setup, onChange }: SectionProps & { setup: DisinfectionSetup }) {
  if (setup.systems.length === 0) return null
  const toggle = (id: string) => (on: boolean) =>
    onChange((before) => {
      const systemIds = on ? [...before.systemIds, id] : before.systemIds.filter((one) => one !== id)
      return withTargets({ ...before, systemIds }, before.targets, setup)
    })
  return (
    <View className="gap-3">
      <Head text={say`Systems of this site`} />
      {setup.systems.map(({ id, name }) => {
        const on = draft.systemIds.includes(id)
        return (
          <View key={id} className="gap-2">
            <Tick
              label={name}
              hint={on ? say`In the job: kept from harm as the result says` : say`Left as it is`}
              value={on}
              onChange={toggle(id)}
            />
            {on ? null : (
              <Field
                label={say`Why ${name} is left out`}
                value={draft.leftOut[id] ?? ''}
                onChangeText={(reason) => onChange((before) => ({ ...before, leftOut: { ...before.leftOut, [id]: reason } }))}
                maxLength={300}
                hint={say`Fed by another line, out of service`}
                error={(draft.leftOut[id] ?? '').trim() === '' ? say`It stands in the record` : undefined}
              />
            )}
          </View>
        )
      })}
    </View>
  )
}

const QUICK: readonly [name: string, side: 'cold' | 'hot'][] = [
  [say`Kitchen, cold`, 'cold'],
  [say`Kitchen, hot`, 'hot'],
  [say`Basin, cold`, 'cold'],
  [say`Basin, hot`, 'hot'],
  [say`Shower`, 'hot'],
  [say`Toilet`, 'cold'],
  [say`Washing machine`, 'cold'],
  [say`Outside tap`, 'cold'],
]

export function Outlets({ draft, onChange }: SectionProps) {
  return (
    <View className="gap-3">
      <Head text={say`Every outlet it must reach`} />
      <T kind="quiet">
        {say`Those of the drawings stand here already. Cold first, the furthest first, then hot: the order is worked out from the pipes.`}
      </T>
      {draft.outlets.map((outlet) => (
        <OutletRow
          key={outlet.id}
          outlet={outlet}
          onChange={(next) =>
            onChange((before) => ({ ...before, outlets: before.outlets.map((one) => (one.id === next.id ? next : one)) }))
          }
          onRemove={() => onChange((before) => ({ ...before, outlets: before.outlets.filter(({ id }) => id !== outlet.id) }))}
        />
      ))}
      <View className="flex-row flex-wrap gap-2">
        {QUICK.map(([name, side]) => (
          <Button
            key={name}
            label={`+ ${name}`}
            onPress={() => onChange((before) => ({ ...before, outlets: [...before.outlets, newOutlet(name, side)] }))}
          />
        ))}
      </View>
    </View>
  )
}

export function Rest({ draft, setup, unskilled, onChange }: SectionProps & { setup: DisinfectionSetup; unskilled: boolean }) {
  const units = useUnits()
  const set = (patch: Partial<Draft>) => onChange((before) => ({ ...before, ...patch }))
  const tank = draft.targets.some((target) => target === 'storage-tank' || target === 'vehicle-tank')
  return (
    <View className="gap-3">
      <Head text={say`Heater, flush, who and when`} />
      <Choice
        label={say`Water heater`}
        value={draft.heater}
        options={[
          { value: 'none', label: say`None` },
          { value: 'bypass', label: say`Bypassed` },
          { value: 'include', label: say`Included` },
        ]}
        onChange={(heater) => set({ heater })}
      />
      <View className="flex-row flex-wrap gap-2">
        <QuantityField
          label={say`Flow of pump or hose`}
          {...unitFor('flow', units)}
          value={draft.flowLMin}
          onChange={(flowLMin) => set({ flowLMin })}
          hint={say`Within the well’s yield`}
          className="min-w-[130px] flex-1"
        />
        {tank ? (
          <QuantityField
            label={say`Left when drained`}
            {...unitFor('litres', units)}
            value={draft.heelL}
            onChange={(heelL) => set({ heelL })}
            className="min-w-[130px] flex-1"
          />
        ) : null}
      </View>
      {draft.targets.includes('dug-well') ? (
        <Tick
          label={say`Over two days`}
          hint={say`Mixed on the first, run to the outlets on the second: where the pump would run over two hours`}
          value={draft.secondDay}
          onChange={(secondDay) => set({ secondDay })}
        />
      ) : null}
      <Select
        label={say`Where the water goes afterwards`}
        value={draft.discharge}
        none={say`Where the water goes`}
        groups={[
          {
            label: say`Afterwards`,
            options: (Object.keys(DISCHARGE_WORDS) as (keyof typeof DISCHARGE_WORDS)[]).map((value) => ({
              value,
              label: DISCHARGE_WORDS[value],
            })),
          },
        ]}
        onChange={(discharge) => {
          if (discharge !== '') set({ discharge })
        }}
      />
      <T kind="quiet">{caution`Never onto a lawn, into a stream or a storm drain, nor in quantity into a septic system.`}</T>
      <Tick label={say`There is a septic system`} value={draft.septic} onChange={(septic) => set({ septic })} />
      <Tick
        label={say`Proved by a sample`}
        hint={say`5 to 7 days after the flush; boiled or bottled water until the result`}
        value={draft.sample}
        onChange={(sample) => set({ sample })}
      />
      <Choice
        label={say`Again`}
        value={draft.repeat}
        options={[
          { value: 'none', label: say`No` },
          { value: 'yearly', label: say`Yearly` },
          { value: 'seasonal', label: say`Each season` },
        ]}
        onChange={(repeat) => set({ repeat })}
      />
      <Select
        label={say`Who does it`}
        value={draft.technicianId}
        none={say`Who does it`}
        groups={[
          {
            label: say`People`,
            options: setup.people.map(({ id, name, wells }) => ({ value: id, label: wells ? say`${name}, wells` : name })),
          },
        ]}
        onChange={(technicianId) => set({ technicianId })}
      />
      {unskilled ? (
        <T role="alert" kind="strong" className="text-oxblood">
          {say`A well is done only by somebody with the skill for wells; many places want a licence.`}
        </T>
      ) : null}
      <DayField
        label={say`Day the chlorine goes in`}
        value={draft.day}
        onChange={(day) => set({ day })}
        error={isIsoDay(draft.day) ? undefined : say`Choose the day`}
      />
    </View>
  )
}
