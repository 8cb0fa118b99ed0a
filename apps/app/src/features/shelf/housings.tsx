import { HOUSING_PROFILES, HOUSINGS } from '@evenround/core/catalogue'
import { View } from 'react-native'
import { T } from '../../ui/text'

/** Every kind of housing: how it opens, what takes its pressure, and what to mind. */
export function Housings() {
  return (
    <View>
      {HOUSINGS.map((housing) => {
        const { name, opens, relievedBy, note } = HOUSING_PROFILES[housing]
        return (
          <View key={housing} className="border-t-2 border-line py-2">
            <T kind="strong">{`${name.charAt(0).toUpperCase()}${name.slice(1)}`}</T>
            <T>{`Opens: ${opens}. Pressure leaves by: ${relievedBy}.`}</T>
            <T kind="quiet">{note}</T>
          </View>
        )
      })}
    </View>
  )
}
