import { say } from '@evenround/core/words'
import { Link, usePathname } from 'expo-router'
import { Pressable, useWindowDimensions, View } from 'react-native'
import { COLOR } from '../../ui/colors'
import { Icon } from '../../ui/icons'
import { Initials } from '../../ui/initials'
import { T } from '../../ui/text'
import { PLACES, placeOf } from './places'

const WORDLESS_PX = 300

/** The five places: a bar under the thumb, or a rail on the left with the keys that lead there. */
export function Navigation({ rail, name }: { rail: boolean; name: string }) {
  const here = placeOf(usePathname())
  // A phone at twice its size has no room for five words beside each other; the drawings stay, and are named.
  const wordless = useWindowDimensions().width < WORDLESS_PX && !rail
  return (
    <View
      role="navigation"
      aria-label={say`Places`}
      className={rail ? 'w-[92px] border-r-2 border-line bg-sheet pt-4' : 'flex-row border-t-2 border-line bg-sheet'}
    >
      {PLACES.map(({ href, label, icon, key }) => {
        const on = href === here
        return (
          <Link key={href} href={href} aria-current={on ? 'page' : undefined} asChild>
            <Pressable
              aria-label={wordless ? label : undefined}
              className={`items-center justify-center gap-0.5 ${rail ? `min-h-[80px] w-[90px] border-l-4 ${on ? 'border-l-kelp' : 'border-l-transparent'}` : `min-h-[60px] flex-1 border-t-4 ${on ? 'border-t-kelp' : 'border-t-transparent'}`}`}
            >
              <Icon name={icon} color={on ? COLOR.kelp : COLOR.quiet} />
              {wordless ? null : (
                <T kind="small" className={on ? 'font-text-bold text-kelp' : 'font-text-bold text-quiet'}>
                  {label}
                </T>
              )}
              {rail ? <T kind="small">{key}</T> : null}
            </Pressable>
          </Link>
        )
      })}
      {rail ? (
        <View className="mt-auto items-center gap-3 pb-4">
          <Link href="/search" asChild>
            <Pressable className="min-h-[60px] w-[90px] items-center justify-center gap-0.5">
              <Icon name="search" color={COLOR.quiet} />
              <T kind="small" className="font-text-bold text-quiet">
                {say`Search`}
              </T>
              <T kind="small">/</T>
            </Pressable>
          </Link>
          <Initials name={name} />
        </View>
      ) : null}
    </View>
  )
}
