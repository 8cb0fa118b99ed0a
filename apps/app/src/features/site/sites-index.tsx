import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useDesk } from '../../ui/desk'
import { Empty } from '../../ui/states'
import { SitesList } from './sites-list'

/** What stands where no site is chosen: on a phone the list itself, at a desk a word about it. */
export function SitesIndex() {
  return useDesk() ? <NoSiteChosen /> : <SitesList chosen={null} />
}

function NoSiteChosen() {
  return (
    <View role="main" className="flex-1 bg-paper p-8">
      <Empty
        title={say`Choose a site`}
        text={say`Its systems, what is due and when, and what was done there. Keys: / to search the firm, j and k to move, Enter to open.`}
      />
    </View>
  )
}
