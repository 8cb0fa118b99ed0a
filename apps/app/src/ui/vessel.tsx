import type { Cause } from '@evenround/core/wear'
import { useId } from 'react'
import Svg, { Circle, ClipPath, Defs, G, Line, Path, Pattern, Rect } from 'react-native-svg'
import { COLOR } from './colors'

interface VesselProps {
  /** Share of the life left at the median, 0 to 1; null when nothing is known. */
  level: number | null
  /** Band of the window as shares, 0 to 1. */
  band?: { low: number; high: number } | null
  cause: Cause | null
  due?: boolean
  height?: number
  label: string
}

const WATER = COLOR.brine

/** The texture of the water names the cause, beside the words that do. */
function Texture({ cause, id, ink }: { cause: Cause; id: string; ink: string }) {
  const stroke = { stroke: ink, strokeWidth: 1.3, fill: 'none' }
  const marks: Record<Cause, React.ReactNode> = {
    calendar: <Line x1="0" y1="4" x2="8" y2="4" {...stroke} />,
    throughput: <Path d="M4 1.2c1.4 1.9 2 3 2 3.9a2 2 0 0 1-4 0c0-.9.6-2 2-3.9z" fill={ink} />,
    pressure: (
      <>
        <Circle cx="2" cy="2" r="1" fill={ink} />
        <Circle cx="6" cy="6" r="1" fill={ink} />
      </>
    ),
    passage: <Path d="M4 0.8 7 4 4 7.2 1 4z" {...stroke} />,
    resin: <Rect x="2" y="2" width="4" height="4" {...stroke} />,
    production: <Path d="M1 6 4 2.5 7 6" {...stroke} />,
    breakthrough: <Path d="M2 2 6 6M6 2 2 6" {...stroke} />,
    lamp: <Path d="M1 4h5" {...stroke} strokeWidth={2} />,
    intensity: <Path d="M0.5 4h3M5.5 4h1" {...stroke} strokeWidth={1.6} />,
  }
  return (
    <Pattern id={id} width="8" height="8" patternUnits="userSpaceOnUse">
      {marks[cause]}
    </Pattern>
  )
}

/** The waterline: the water stands at the life left, the window is the lighter band, the notch is today's limit. */
export function Vessel({ level, band = null, cause, due = false, height = 56, label }: VesselProps) {
  const id = useId().replace(/[^a-zA-Z0-9]/g, '')
  const width = Math.max(16, Math.round(height * 0.38))
  const inset = 2
  const inner = height - 2 * inset
  const y = (share: number): number => inset + inner * (1 - Math.min(1, Math.max(0, share)))
  const water = due ? COLOR.copper : WATER
  const radius = 5
  return (
    <Svg width={width + 10} height={height} viewBox={`0 0 ${width + 10} ${height}`} role="img" aria-label={label}>
      <Defs>
        {cause ? <Texture cause={cause} id={`tex${id}`} ink={COLOR.sheet} /> : null}
        <ClipPath id={`in${id}`}>
          <Rect x={1} y={1} width={width - 2} height={height - 2} rx={radius} />
        </ClipPath>
      </Defs>
      <Rect x={1} y={1} width={width - 2} height={height - 2} rx={radius} fill={COLOR.sheet} />
      {level === null ? null : (
        <G clipPath={`url(#in${id})`}>
          {band ? (
            <Rect x={0} y={y(band.high)} width={width} height={Math.max(0, y(level) - y(band.high))} fill={water} opacity={0.35} />
          ) : null}
          <Rect x={0} y={y(level)} width={width} height={height - y(level)} fill={water} />
          {cause ? <Rect x={0} y={y(level)} width={width} height={height - y(level)} fill={`url(#tex${id})`} opacity={0.75} /> : null}
        </G>
      )}
      <Rect
        x={1}
        y={1}
        width={width - 2}
        height={height - 2}
        rx={radius}
        fill="none"
        stroke={level === null ? COLOR.line : COLOR.ink}
        strokeWidth={2}
        strokeDasharray={level === null ? '3 3' : undefined}
      />
      {level === null ? null : <Line x1={width - 4} x2={width + 8} y1={height - 7} y2={height - 7} stroke={COLOR.copper} strokeWidth={3} />}
    </Svg>
  )
}
