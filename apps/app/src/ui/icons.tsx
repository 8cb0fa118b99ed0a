import type { LucideIcon } from 'lucide-react-native'
import Back from 'lucide-react-native/icons/chevron-left'
import On from 'lucide-react-native/icons/chevron-right'
import Sites from 'lucide-react-native/icons/house'
import Today from 'lucide-react-native/icons/list-todo'
import Book from 'lucide-react-native/icons/notebook-text'
import Shelf from 'lucide-react-native/icons/package'
import Round from 'lucide-react-native/icons/route'
import Search from 'lucide-react-native/icons/search'

/** Each by its own file: the whole set is larger than the program. */
const ICONS = { today: Today, round: Round, sites: Sites, shelf: Shelf, book: Book, back: Back, search: Search, on: On } satisfies Record<
  string,
  LucideIcon
>
export type IconName = keyof typeof ICONS

/** A drawing beside words that say the same: nothing is said by it alone. */
export function Icon({ name, color, size = 24 }: { name: IconName; color: string; size?: number }) {
  const Drawing = ICONS[name]
  return <Drawing color={color} size={size} aria-hidden />
}
