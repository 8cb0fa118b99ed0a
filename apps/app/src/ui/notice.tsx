import { say } from '@evenround/core/words'
import type { ReactNode } from 'react'
import { View } from 'react-native'
import { T } from './text'

const BAND = { look: 'border-l-copper', danger: 'border-l-oxblood', good: 'border-l-lichen', act: 'border-l-kelp' } as const
const MARK = { look: say`Look: `, danger: say`Caution: `, good: '', act: '' } as const

interface NoticeProps {
  tone: keyof typeof BAND
  title: string
  children?: ReactNode
  /** Read out when it appears. */
  live?: boolean
}

/** A card with a band: the tone is in the band and in the words, never in the colour alone. */
export function Notice({ tone, title, children, live = false }: NoticeProps) {
  return (
    <View
      role={live ? 'status' : undefined}
      className={`gap-1 rounded-card border-2 border-line border-l-8 bg-sheet px-4 py-3 ${BAND[tone]}`}
    >
      <T kind="heading" accessibilityLabel={`${MARK[tone]}${title}`}>
        {title}
      </T>
      {children}
    </View>
  )
}

/** A doubt that wants an answer: dashed, never a refusal. */
export function Doubt({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <View role="status" className="gap-2 rounded-card border-2 border-dashed border-copper bg-sheet px-4 py-3">
      <T kind="strong">{title}</T>
      {children}
    </View>
  )
}
