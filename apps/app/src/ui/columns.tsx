import { Children, type ReactNode } from 'react'
import { View } from 'react-native'
import { useDesk } from './desk'

/** Two parts of a screen: beside one another where there is room for both, one below the other on a phone. */
export function Columns({ children }: { children: ReactNode[] }) {
  const desk = useDesk()
  if (!desk) return <View className="gap-4">{children}</View>
  return (
    <View className="flex-row items-start gap-10">
      {Children.map(children, (child) => (
        <View className="min-w-0 flex-1">{child}</View>
      ))}
    </View>
  )
}
