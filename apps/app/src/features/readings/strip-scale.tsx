import { unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { Pressable, View } from 'react-native'
import { useUnits } from '../../data/units'
import { T } from '../../ui/text'

/** Steps of a free-chlorine strip, mg/L; a strip that stays as it was reads 0. */
const STEPS = ['0', '0.05', '0.1', '0.3', '0.5', '1', '3'] as const
/** How strong each step is drawn, as a share of full. */
const STRENGTH = [0.04, 0.15, 0.28, 0.42, 0.58, 0.78, 1] as const

/** A strip beside its scale: the step is the number under it, the strength of the field only helps to find it. */
export function StripScale({ label, value, onChange }: { label: string; value: string; onChange: (value: string) => void }) {
  const mgL = unitOf('concentration', useUnits()).text
  return (
    <View className="gap-1" role="radiogroup" aria-label={label}>
      <T kind="label">{label}</T>
      {value !== '' && !(STEPS as readonly string[]).includes(value) ? (
        <View className="flex-row items-center gap-3">
          <T kind="strong">{say`${value} ${mgL}, by the photometer`}</T>
          <Pressable role="button" onPress={() => onChange('')} className="min-h-[48px] justify-center">
            <T kind="small" className="underline">
              {say`take away`}
            </T>
          </Pressable>
        </View>
      ) : null}
      <View className="flex-row gap-1">
        {STEPS.map((step, index) => {
          const on = step === value
          return (
            <Pressable
              key={step}
              role="radio"
              aria-checked={on}
              aria-label={`${step} ${mgL}`}
              onPress={() => onChange(on ? '' : step)}
              className={`min-h-[56px] flex-1 items-center justify-between overflow-hidden rounded-card border-2 bg-sheet ${on ? 'border-kelp' : 'border-line'}`}
            >
              <View className="w-full flex-1 bg-brine" style={{ opacity: STRENGTH[index] ?? 0 }} />
              <T kind="label" className={on ? 'text-kelp' : ''}>
                {step}
              </T>
            </Pressable>
          )
        })}
      </View>
    </View>
  )
}
