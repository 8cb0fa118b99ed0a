import type { ReactNode } from 'react'
import { Text as SvgText } from 'react-native-svg'
import { COLOR } from './colors'
import { monthLetters } from './format'
import { turn } from './ring-piece'

export const RING_FONT = 'Atkinson, Verdana'

/** Small words in a ring. */
export function RingText({ x, y, children }: { x: number; y: number; children: ReactNode }) {
  return (
    <SvgText x={x} y={y} fontSize={12} fontFamily={RING_FONT} textAnchor="middle" fill={COLOR.quiet}>
      {children}
    </SvgText>
  )
}

/** The months inside a ring of the year. */
export function RingMonths({ middle, radius }: { middle: number; radius: number }) {
  return monthLetters().map((month, index) => {
    const angle = turn((index + 0.5) / 12)
    return (
      <RingText key={month} x={middle + radius * Math.sin(angle)} y={middle - radius * Math.cos(angle) + 4}>
        {month}
      </RingText>
    )
  })
}
