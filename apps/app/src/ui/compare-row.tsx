import { View } from 'react-native'
import { T } from './text'

/** A figure as it was and as it would be. */
export function CompareRow({ label, a, b }: { label: string; a: string; b: string }) {
  return (
    <View className="flex-row gap-2">
      <T kind="quiet" className="flex-1">
        {label}
      </T>
      <T kind="quiet" className="w-24 text-right">
        {a}
      </T>
      <T kind="strong" className="w-24 text-right">
        {b}
      </T>
    </View>
  )
}

/** What the two columns of figures are. */
export function CompareHead({ a, b }: { a: string; b: string }) {
  return (
    <View className="flex-row gap-2">
      <View className="flex-1" />
      <T kind="small" className="w-24 text-right">
        {a}
      </T>
      <T kind="small" className="w-24 text-right">
        {b}
      </T>
    </View>
  )
}
