import { say } from '@evenround/core/words'
import { type ComponentType, lazy, Suspense } from 'react'
import { View } from 'react-native'
import { Boundary } from './boundary'
import { Waiting } from './states'

/**
 * A screen whose code comes in a file of its own, when it is first wanted. The frame and Today are not: they are what
 * everybody sees first, and each file that waits for another one costs a slow phone a tenth of a second.
 */
export function later<P extends object>(load: () => Promise<ComponentType<P>>): ComponentType<P> {
  const Screen = lazy(async () => ({ default: await load() }))
  return function Later(props: P) {
    return (
      <Boundary what={say`This screen cannot be shown`}>
        <Suspense
          fallback={
            <View className="flex-1 bg-paper p-4">
              <Waiting what={say`Opening`} />
            </View>
          }
        >
          <Screen {...props} />
        </Suspense>
      </Boundary>
    )
  }
}
