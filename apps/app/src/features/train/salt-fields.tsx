import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { askedIn, useUnits } from '../../data/units'
import type { Salt } from '../../data/visit-acts'
import { QuantityField } from '../../parts/quantity/quantity-field'

/** How much salt went in, and what the drops say before and after it; hardness may be left out. */
export function SaltFields({ salt, onChange }: { salt: Salt; onChange: (salt: Salt) => void }) {
  const units = useUnits()
  const field = (name: keyof Salt, label: string, dimension: 'mass' | 'hardness', hint?: string) => (
    <QuantityField
      label={label}
      {...askedIn(dimension, units)}
      value={salt[name]}
      onChange={(value) => onChange({ ...salt, [name]: value })}
      className="min-w-[130px] flex-1"
      {...(hint ? { hint } : {})}
    />
  )
  return (
    <View className="flex-row flex-wrap gap-2">
      {field('saltKg', say`Salt filled in`, 'mass', say`0 where it was full`)}
      {field('hardnessInMgL', say`Hardness before it`, 'hardness')}
      {field('hardnessOutMgL', say`Hardness after it`, 'hardness')}
    </View>
  )
}
