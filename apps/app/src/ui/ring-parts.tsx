import type { ReactNode } from 'react'
import { Circle, Path, Text as SvgText } from 'react-native-svg'
import { COLOR } from './colors'
import { monthLetters } from './format'
import { piece, turn, weekAngles } from './ring-piece'

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

interface RingWeekProps {
  /** Its Monday. */
  week: string
  inner: number
  rim: number
  chosen: boolean
  /** Left out where a tap chooses nothing. */
  onPress: (() => void) | undefined
}

/** What is the same of every week of a ring: the mark of the chosen one, and where a thumb meets it. */
export function RingWeek({ week, inner, rim, chosen, onPress }: RingWeekProps) {
  const [from, to] = weekAngles(week)
  return (
    <>
      {chosen ? <Path d={piece(from, to, inner - 7, inner - 3)} fill={COLOR.copper} /> : null}
      <Path d={piece(from, to, inner - 8, rim)} fill={COLOR.paper} opacity={0} onPress={onPress} />
    </>
  )
}

/** The level as a dotted circle. */
export function RingLevel({ middle, radius }: { middle: number; radius: number }) {
  return (
    <Circle
      cx={middle}
      cy={middle}
      r={radius}
      fill="none"
      stroke={COLOR.ink}
      strokeWidth={1.6}
      strokeDasharray="0.5 5"
      strokeLinecap="round"
    />
  )
}
