import type { VisitPageDto } from '@evenround/contract/book'
import type { ShownUnits } from '@evenround/core/units'
import type { FactOf } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { correct } from '../../data/corrections'
import { askedIn, useUnits } from '../../data/units'
import { QuantityField } from '../../parts/quantity/quantity-field'
import { Card, stageTitle } from './correction-card'
import { withPhase } from './phase-words'

type Reading = FactOf<'stage-reading'>
type Name =
  | 'counterL'
  | 'inKpa'
  | 'outKpa'
  | 'flowLMin'
  | 'chlorineAfterMgL'
  | 'lampHours'
  | 'intensityPercent'
  | 'productLMin'
  | 'saltKg'
  | 'hardnessInMgL'
  | 'hardnessOutMgL'
type Asked = 'volume' | 'pressure' | 'flow' | 'concentration' | 'mass' | 'hardness' | 'number'
const FIELDS: Record<Name, { label: string; dimension: Asked; unitText?: string }> = {
  counterL: { label: say`Counter`, dimension: 'volume' },
  inKpa: { label: say`Pressure in`, dimension: 'pressure' },
  outKpa: { label: say`Pressure out`, dimension: 'pressure' },
  flowLMin: { label: say`Flow at the tap`, dimension: 'flow' },
  chlorineAfterMgL: { label: say`Free chlorine after it`, dimension: 'concentration' },
  lampHours: { label: say`Hours lit`, dimension: 'number', unitText: 'h' },
  intensityPercent: { label: say`Intensity`, dimension: 'number', unitText: '%' },
  productLMin: { label: say`Permeate`, dimension: 'flow' },
  saltKg: { label: say`Salt filled in`, dimension: 'mass' },
  hardnessInMgL: { label: say`Hardness before it`, dimension: 'hardness' },
  hardnessOutMgL: { label: say`Hardness after it`, dimension: 'hardness' },
}
const names = Object.keys(FIELDS) as Name[]

function unitFor(name: Name, units: ShownUnits): { dimension: Asked; unit: string; unitText: string } {
  const { dimension, unitText = '' } = FIELDS[name]
  if (dimension === 'number') return { dimension, unit: '', unitText }
  return askedIn(dimension, units)
}

/** What was read of a stage or of the whole system, figure by figure. */
export function StageReadingForm({ fact, page }: { fact: Reading; page: VisitPageDto }) {
  const units = useUnits()
  const read = names.filter((name) => fact[name] !== null)
  const [values, setValues] = useState<Partial<Record<Name, number | null>>>(() =>
    Object.fromEntries(read.map((name) => [name, fact[name]])),
  )
  const valid = read.every((name) => values[name] != null)
  const changed = read.some((name) => values[name] !== fact[name])
  if (read.length === 0) return null
  return (
    <Card
      title={withPhase(fact.stageId === null ? say`The system` : stageTitle(page, fact.stageId), fact.phase)}
      ready={valid && changed}
      fact={fact}
      onKeep={() => void correct(fact, values)}
    >
      {read.map((name) => (
        <QuantityField
          key={name}
          label={FIELDS[name].label}
          {...unitFor(name, units)}
          value={values[name] ?? null}
          onChange={(value) => setValues((before) => ({ ...before, [name]: value }))}
        />
      ))}
    </Card>
  )
}
