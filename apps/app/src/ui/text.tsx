import type { ReactNode } from 'react'
import { Text, type TextProps } from 'react-native'

const KINDS = {
  title: 'font-slab text-[26px] leading-[31px] text-ink',
  heading: 'font-slab-semi text-[20px] leading-[25px] text-ink',
  body: 'font-text text-[16px] leading-[23px] text-ink',
  strong: 'font-text-bold text-[16px] leading-[22px] text-ink',
  quiet: 'font-text text-[14px] leading-[19px] text-quiet',
  label: 'font-text-bold text-[14px] leading-[18px] text-ink',
  small: 'font-text text-[13px] leading-[17px] text-quiet',
  figure: 'font-text-bold text-[40px] leading-[46px] text-ink',
} as const

export interface TProps extends TextProps {
  kind?: keyof typeof KINDS
  /** Makes it a heading of this level for screen readers. */
  level?: 1 | 2 | 3
  className?: string
  children: ReactNode
}

/** A colour, and no size or side. */
const COLOUR = /(^|\s)text-(?!\[|left\b|right\b|center\b)/
const USUAL_COLOUR = / text-(ink|quiet)$/

/** The classes of a text. Of two colours the style sheet's order would decide, not ours: one of its own takes the usual one's place. */
export const lookOf = (kind: keyof typeof KINDS, own: string): string =>
  `${COLOUR.test(own) ? KINDS[kind].replace(USUAL_COLOUR, '') : KINDS[kind]} tabular-nums ${own}`

/** All text of the program; figures are tabular everywhere. */
export function T({ kind = 'body', level, className = '', children, ...rest }: TProps) {
  const heading = level === undefined ? {} : ({ role: 'heading', 'aria-level': level } as const)
  return (
    <Text {...heading} {...rest} className={lookOf(kind, className)}>
      {children}
    </Text>
  )
}
