import { say } from '@evenround/core/words'
import { type ReactNode, useEffect } from 'react'
import { ScrollView, View } from 'react-native'
import { useDesk } from './desk'
import { T } from './text'

interface ScreenProps {
  /** Small line above the title. */
  over?: ReactNode
  title: string
  /** At the right of the title. */
  aside?: ReactNode
  /** Stands still above what scrolls. */
  pinned?: ReactNode
  /** Fixed under the thumb. */
  bottom?: ReactNode
  children: ReactNode
  /** How wide the column may grow at a desk. */
  wide?: boolean
}

/** One screen: heading, scrolling content, and at most one row of acts under the thumb. */
export function Screen({ over, title, aside, pinned, bottom, children, wide = false }: ScreenProps) {
  const desk = useDesk()
  useEffect(() => {
    document.title = say`${title} · Even Round`
  }, [title])
  const column = wide ? 'max-w-[1120px]' : 'max-w-[680px]'
  return (
    <View role="main" className="flex-1 bg-paper">
      {pinned}
      <ScrollView
        tabIndex={0}
        className="flex-1"
        contentContainerClassName={`w-full ${column} gap-4 px-4 pb-8 ${desk ? 'pt-8 px-8' : 'pt-4'}`}
      >
        <View className="flex-row flex-wrap items-start gap-3">
          <View className="shrink grow basis-[200px] gap-0.5">
            {typeof over === 'string' ? <T kind="quiet">{over}</T> : over}
            <T kind="title" level={1}>
              {title}
            </T>
          </View>
          {aside}
        </View>
        {children}
      </ScrollView>
      {bottom ? (
        <View className={`border-t-2 border-line bg-sheet px-4 py-3 ${desk ? 'px-8' : ''}`}>
          <View className={`w-full flex-row flex-wrap gap-3 ${column}`}>{bottom}</View>
        </View>
      ) : null}
    </View>
  )
}
