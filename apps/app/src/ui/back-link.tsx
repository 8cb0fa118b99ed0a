import { Link, type LinkProps } from 'expo-router'
import { Pressable } from 'react-native'
import { COLOR } from './colors'
import { Icon } from './icons'
import { T } from './text'

/** Where "back" leads, named; the browser's own back works as well. */
export function BackLink({ href, label }: { href: LinkProps['href']; label: string }) {
  return (
    <Link href={href} asChild>
      <Pressable className="self-start min-h-[48px] flex-row items-center gap-1 pr-3">
        <Icon name="back" color={COLOR.quiet} size={20} />
        <T kind="quiet">{label}</T>
      </Pressable>
    </Link>
  )
}
