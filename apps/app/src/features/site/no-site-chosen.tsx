import { View } from 'react-native'
import { Empty } from '../../ui/states'

/** The right half at a desk before a site is chosen. */
export function NoSiteChosen() {
  return (
    <View role="main" className="flex-1 bg-paper p-8">
      <Empty
        title="Choose a site"
        text="Its systems, what is due and when, and what was done there. Keys: / to search, j and k to move, Enter to open."
      />
    </View>
  )
}
