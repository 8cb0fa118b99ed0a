import { Slot, usePathname } from 'expo-router'
import { View } from 'react-native'
import { useDesk } from '../../ui/desk'
import { SitesList } from './sites-list'

/** At a desk the list stands left and the site right; on a phone one at a time. */
export function SitesFrame() {
  const desk = useDesk()
  const path = usePathname()
  if (!desk) return <Slot />
  return (
    <View className="flex-1 flex-row">
      <View className="w-[380px] border-r-2 border-line">
        <SitesList chosen={path.startsWith('/sites/') ? path.slice('/sites/'.length) : null} aside />
      </View>
      <View className="flex-1">
        <Slot />
      </View>
    </View>
  )
}
