import Svg, { Line, Rect } from 'react-native-svg'
import { COLOR } from './colors'

interface WindowBarProps {
  /** Places on a common axis from 0 (today) to 1 (its far end); beyond it they are cut off. */
  from: number
  middle: number
  to: number
  /** Where the plan's day stands; at or before 0 it is overdue. */
  due: number
  width: number
}

const HEIGHT = 18

/** A window on an axis that begins today: the band, its middle, and the notch of the plan's day. Words beside it say the same. */
export function WindowBar({ from, middle, to, due, width }: WindowBarProps) {
  const x = (place: number): number => 3 + Math.min(1, Math.max(0, place)) * (width - 6)
  const late = due <= 0
  return (
    <Svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} aria-hidden>
      <Line x1={3} x2={width - 3} y1={14} y2={14} stroke={COLOR.line} strokeWidth={2} />
      <Line x1={3} x2={3} y1={8} y2={17} stroke={COLOR.quiet} strokeWidth={2} />
      <Rect x={x(from)} y={6} width={Math.max(3, x(to) - x(from))} height={8} rx={2} fill={COLOR.brine} opacity={0.4} />
      <Rect x={x(middle) - 1.5} y={6} width={3} height={8} fill={COLOR.brine} />
      <Line x1={x(due)} x2={x(due)} y1={2} y2={14} stroke={late ? COLOR.oxblood : COLOR.copper} strokeWidth={3} />
    </Svg>
  )
}
