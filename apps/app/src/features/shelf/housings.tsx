import { HOUSING_PROFILES, HOUSINGS } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useDesk } from '../../ui/desk'
import { T } from '../../ui/text'

/** Every kind of housing: how it opens, what takes its pressure, and what to mind. */
export function Housings() {
  const desk = useDesk()
  return (
    <View className={desk ? 'flex-row flex-wrap gap-x-8' : ''}>
      {HOUSINGS.map((housing) => {
        const { name, opens, relievedBy, note } = HOUSING_PROFILES[housing]
        return (
          <View key={housing} className={`border-t-2 border-line py-2 ${desk ? 'w-[calc(50%-1rem)]' : ''}`}>
            <T kind="strong">{`${name.charAt(0).toUpperCase()}${name.slice(1)}`}</T>
            <T>{say`Opens: ${opens}. Pressure leaves by: ${relievedBy}.`}</T>
            <T kind="quiet">{note}</T>
          </View>
        )
      })}
    </View>
  )
}
