import { type Href, Link } from 'expo-router'
import { Pressable } from 'react-native'
import { T } from './text'

/** A way to another screen in words, as tall as a thumb. */
export function TextLink({ href, label }: { href: Href; label: string }) {
  return (
    <Link href={href} asChild>
      <Pressable className="min-h-[48px] justify-center">
        <T kind="label" className="underline">
          {label}
        </T>
      </Pressable>
    </Link>
  )
}
