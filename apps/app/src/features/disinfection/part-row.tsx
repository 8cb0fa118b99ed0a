import { partLitres, SIDES, type Side } from '@evenround/core/disinfection'
import { BORES } from '@evenround/core/job'
import type { ShownUnits } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { askedIn, useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Field } from '../../ui/field'
import { quantity } from '../../ui/format'
import { Segments } from '../../ui/segments'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import type { DraftPart, PartKind } from './draft'
import { partOf, partProblem } from './draft-plan'
import { PartDrawing } from './part-drawing'
import { SIDE_WORDS } from './words'

type FieldSpec = { name: string; label: string; kind: 'small' | 'long' | 'litres' | 'pressure'; hint?: string }
const DEPTH: FieldSpec = { name: 'waterDepth', label: say`Water depth`, kind: 'long' }
const FIELDS: Record<PartKind, readonly FieldSpec[]> = {
  casing: [
    { name: 'diameter', label: say`Casing inside`, kind: 'small' },
    { name: 'depth', label: say`Well depth`, kind: 'long', hint: say`From the top to the bottom` },
    { name: 'level', label: say`Water begins at`, kind: 'long', hint: say`Static level, from the top: only the water below it counts` },
  ],
  'upright-cylinder': [{ name: 'diameter', label: say`Diameter`, kind: 'small' }, DEPTH],
  'lying-cylinder': [
    { name: 'diameter', label: say`Diameter`, kind: 'small' },
    { name: 'length', label: say`Length`, kind: 'long' },
    DEPTH,
  ],
  box: [{ name: 'length', label: say`Length`, kind: 'long' }, { name: 'width', label: say`Width`, kind: 'long' }, DEPTH],
  'pressure-tank': [
    { name: 'volume', label: say`Tank volume`, kind: 'litres' },
    { name: 'precharge', label: say`Precharge`, kind: 'pressure' },
    { name: 'pressure', label: say`Pressure now`, kind: 'pressure' },
  ],
  pipe: [{ name: 'length', label: say`Run`, kind: 'long' }],
  known: [{ name: 'volume', label: say`Volume`, kind: 'litres' }],
}

/** How a length, volume or pressure is asked for in the firm's units. */
export function unitFor(
  kind: FieldSpec['kind'] | 'flow' | 'temperature',
  units: ShownUnits,
): { dimension: 'length' | 'volume' | 'pressure' | 'flow' | 'temperature'; unit: string; unitText: string } {
  if (kind === 'flow' || kind === 'temperature') return askedIn(kind, units)
  const feet = units.volume === 'gal'
  if (kind === 'small') return { dimension: 'length', unit: feet ? 'in' : 'mm', unitText: feet ? 'in' : 'mm' }
  if (kind === 'long') return { dimension: 'length', unit: feet ? 'ft' : 'm', unitText: feet ? 'ft' : 'm' }
  if (kind === 'litres')
    return { dimension: 'volume', unit: feet ? (units.gallon === 'us' ? 'us-gal' : 'imp-gal') : 'l', unitText: feet ? 'gal' : 'L' }
  return { dimension: 'pressure', unit: units.pressure.toLowerCase(), unitText: units.pressure }
}

/** Pipes by material, those first that are sold by the firm's measure; inch pipe by its own names, its bore in inches. */
function nominals(inches: boolean) {
  const own = (nominal: string): boolean => nominal.endsWith('in') === inches
  const sorted = BORES.map((bore, index) => ({ ...bore, index })).sort((a, b) => Number(own(b.nominal)) - Number(own(a.nominal)))
  const inside = ({ nominal, boreMm }: (typeof BORES)[number]): string =>
    nominal.endsWith('in') ? say`${(boreMm / 25.4).toFixed(2)} in inside` : say`${boreMm} mm inside`
  const names = [...new Set(sorted.map(({ material, nominal }) => `${material}${nominal.endsWith('in') ? say`, inch` : ''}`))]
  return names.map((label) => ({
    label,
    options: sorted
      .filter(({ material, nominal }) => `${material}${nominal.endsWith('in') ? ', inch' : ''}` === label)
      .map((bore) => ({ value: String(bore.index), label: `${bore.nominal} ${bore.material} (${inside(bore)})` })),
  }))
}

export function BoreSelect({ value, onChange }: { value: number; onChange: (bore: number) => void }) {
  const units = useUnits()
  return (
    <Select
      label={say`Pipe by its nominal size`}
      value={String(value)}
      none={say`Pipe size`}
      groups={nominals(units.volume === 'gal')}
      onChange={(next) => {
        if (next !== '') onChange(Number(next))
      }}
    />
  )
}

const sideWords = Object.fromEntries(SIDES.map((side) => [side, SIDE_WORDS[side]])) as Record<Side, string>

/** One part that will be wetted: its drawing, its measures, the water in it. */
export function PartRow({ part, onChange, onRemove }: { part: DraftPart; onChange: (part: DraftPart) => void; onRemove: () => void }) {
  const units = useUnits()
  const [open, setOpen] = useState(true)
  const said = partOf(part)
  const litres = said === null ? null : partLitres(said)
  const problem = partProblem(part)
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={part.name}>
      <Pressable role="button" aria-expanded={open} onPress={() => setOpen(!open)} className="min-h-[56px] flex-row items-center gap-3">
        <PartDrawing part={part} />
        <View className="flex-1">
          <T kind="strong">{part.name}</T>
          <T kind="quiet">{part.sideSaid === false ? say`cold or hot? say where it stands` : SIDE_WORDS[part.side]}</T>
        </View>
        <T kind="strong" className={litres === null ? 'text-quiet' : 'text-brine'}>
          {litres === null ? '?' : quantity(litres, 'volume', units)}
        </T>
      </Pressable>
      {open ? (
        <View className="gap-2">
          <View className="flex-row flex-wrap gap-2">
            {FIELDS[part.kind].map(({ name, label, kind, hint }) => (
              <QuantityField
                key={name}
                label={label}
                {...unitFor(kind, units)}
                value={part.values[name] ?? null}
                onChange={(value) => onChange({ ...part, values: { ...part.values, [name]: value } })}
                className="min-w-[130px] flex-1"
                {...(hint ? { hint } : {})}
              />
            ))}
          </View>
          {part.kind === 'pipe' ? <BoreSelect value={part.bore} onChange={(bore) => onChange({ ...part, bore })} /> : null}
          {problem ? (
            <T role="alert" kind="small" className="text-oxblood">
              {problem}
            </T>
          ) : null}
          <Segments
            label={say`Where the water of ${part.name} stands`}
            value={part.sideSaid === false ? null : part.side}
            words={sideWords}
            onChange={(side) => onChange({ ...part, side, sideSaid: true })}
          />
          <View className="flex-row items-end gap-2">
            <Field
              label={say`Name`}
              value={part.name}
              onChangeText={(name) => onChange({ ...part, name })}
              maxLength={60}
              className="flex-1"
            />
            <Pressable role="button" onPress={onRemove} className="min-h-[48px] justify-center px-2">
              <T kind="label" className="underline">
                {say`Take away`}
              </T>
            </Pressable>
          </View>
        </View>
      ) : null}
    </View>
  )
}
