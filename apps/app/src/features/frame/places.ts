import { say } from '@evenround/core/words'
import type { IconName } from '../../ui/icons'

export const PLACES = [
  { href: '/today', label: say`Today`, icon: 'today', key: '1' },
  { href: '/round', label: say`Round`, icon: 'round', key: '2' },
  { href: '/sites', label: say`Sites`, icon: 'sites', key: '3' },
  { href: '/shelf', label: say`Shelf`, icon: 'shelf', key: '4' },
  { href: '/book', label: say`Book`, icon: 'book', key: '5' },
] as const satisfies readonly { href: string; label: string; icon: IconName; key: string }[]

/** Work at the door belongs to Today, what is due to the round, a stage to its site. */
const BELONGS: readonly [path: string, place: string][] = [
  ['/stop', '/today'],
  ['/disinfect', '/sites'],
  ['/dose', '/shelf'],
  ['/due', '/round'],
  ['/stage', '/sites'],
  ['/intake', '/sites'],
  ['/hours', '/sites'],
  ['/reading', '/sites'],
  ['/rules', '/round'],
  ['/van', '/today'],
]
export const placeOf = (path: string): string =>
  BELONGS.find(([own]) => path.startsWith(own))?.[1] ?? PLACES.find(({ href }) => path.startsWith(href))?.href ?? ''

/** Work at a door: no sign-in that ran out and no newer program may come between. */
export const isAtDoor = (path: string): boolean =>
  path.startsWith('/stop') || path.startsWith('/disinfect/') || path.startsWith('/reading/')
