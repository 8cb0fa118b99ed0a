import { unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { Pressable, View } from 'react-native'
import { useUnits } from '../../data/units'
import { T } from '../../ui/text'
import { QuantityField } from './quantity-field'

const HIGH = [0, 10, 25, 50, 100, 200] as const
const LOW = [0, 0.5, 1, 2, 5, 10] as const

interface StripLadderProps {
  label: string
  range: 'high' | 'low'
  value: number | null
  onChange: (mgL: number | null) => void
}

/** A free-chlorine strip beside its steps, and a field for what lies between two of them. */
export function StripLadder({ label, range, value, onChange }: StripLadderProps) {
  const units = useUnits()
  const { text: unit } = unitOf('concentration', units)
  const steps = range === 'high' ? HIGH : LOW
  const most = steps.at(-1) as number
  return (
    <View className="gap-2">
      <View role="radiogroup" aria-label={label} className="flex-row gap-1">
        {steps.map((step) => {
          const on = step === value
          return (
            <Pressable
              key={step}
              role="radio"
              aria-checked={on}
              aria-label={`${step} ${unit}`}
              onPress={() => onChange(on ? null : step)}
              className={`min-h-[56px] flex-1 items-center justify-between overflow-hidden rounded-card border-2 bg-sheet ${on ? 'border-kelp' : 'border-line'}`}
            >
              <View className="w-full flex-1 bg-brine" style={{ opacity: 0.05 + 0.95 * Math.sqrt(step / most) }} />
              <T kind="label" className={on ? 'text-kelp' : ''}>
                {step}
              </T>
            </Pressable>
          )
        })}
      </View>
      <QuantityField
        key={value ?? 'none'}
        label={say`Or between two steps`}
        dimension="concentration"
        unit="mg/l"
        unitText={unit}
        value={value}
        onChange={onChange}
      />
    </View>
  )
}
