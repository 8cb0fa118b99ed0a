import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { useId } from 'react'
import Svg, { Circle, ClipPath, Defs, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg'
import { COLOR } from './colors'

export interface ChartPoint {
  /** Day number; 0 is today. */
  day: number
  value: number
}

interface SeriesChartProps {
  points: readonly ChartPoint[]
  limit: { value: number; label: string } | null
  /** The course that is believed: its middle, and the edges of its band, each as points. */
  course: { middle: readonly ChartPoint[]; early: readonly ChartPoint[]; late: readonly ChartPoint[] } | null
  first: number
  last: number
  ticks: readonly { at: number; label: string }[]
  format: (value: number) => string
  width: number
  label: string
}

const HEIGHT = 150
const LEFT = 46
const BOTTOM = 22
const TOP = 8

/** Readings over time with the limit they run towards, and the fit that is believed with its band. */
export function SeriesChart({ points, limit, course, first, last, ticks, format, width, label }: SeriesChartProps) {
  const values = [...points.map(({ value }) => value), ...(limit ? [limit.value] : [])]
  const most = Math.max(...values) * 1.12 || 1
  const x = scaleLinear([first, last], [LEFT, width - 6]).clamp(true)
  const y = scaleLinear([0, most], [HEIGHT - BOTTOM, TOP])
  const id = useId().replace(/[^a-zA-Z0-9]/g, '')
  const path = line<ChartPoint>()
    .x(({ day }) => x(day))
    .y(({ value }) => y(value))
  const band = area<[ChartPoint, ChartPoint]>()
    .x(([one]) => x(one.day))
    .y0(([one]) => y(one.value))
    .y1(([, other]) => y(other.value))
  const pairs = course ? course.early.map((one, index) => [one, course.late[index] ?? one] as [ChartPoint, ChartPoint]) : []
  return (
    <Svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} role="img" aria-label={label}>
      {y.ticks(3).map((value) => (
        <G key={value}>
          <Line x1={LEFT} x2={width - 6} y1={y(value)} y2={y(value)} stroke={COLOR.line} strokeWidth={1} />
          <SvgText x={LEFT - 6} y={y(value) + 4} fontSize={12} textAnchor="end" fontFamily="Atkinson, Verdana" fill={COLOR.quiet}>
            {format(value)}
          </SvgText>
        </G>
      ))}
      {ticks.map(({ at, label: text }) => (
        <SvgText key={at} x={x(at)} y={HEIGHT - 6} fontSize={12} fontFamily="Atkinson, Verdana" fill={COLOR.quiet}>
          {text}
        </SvgText>
      ))}
      <Defs>
        <ClipPath id={`in${id}`}>
          <Rect x={LEFT} y={TOP} width={width - LEFT - 6} height={HEIGHT - BOTTOM - TOP} />
        </ClipPath>
      </Defs>
      {course ? (
        <G clipPath={`url(#in${id})`}>
          <Path d={band(pairs) ?? ''} fill={COLOR.brine} opacity={0.22} />
          <Path d={path([...course.middle]) ?? ''} stroke={COLOR.brine} strokeWidth={2} fill="none" />
        </G>
      ) : null}
      {limit ? (
        <>
          <Line
            x1={LEFT}
            x2={width - 6}
            y1={y(limit.value)}
            y2={y(limit.value)}
            stroke={COLOR.copper}
            strokeWidth={2}
            strokeDasharray="6 3"
          />
          <SvgText x={LEFT + 6} y={y(limit.value) - 5} fontSize={12} fontFamily="Atkinson, Verdana" fill={COLOR.ink}>
            {limit.label}
          </SvgText>
        </>
      ) : null}
      <Line x1={x(0)} x2={x(0)} y1={TOP} y2={HEIGHT - BOTTOM} stroke={COLOR.ink} strokeWidth={1} strokeDasharray="2 4" />
      {points.map(({ day, value }) => (
        <Circle key={`${day}/${value}`} cx={x(day)} cy={y(value)} r={3.5} fill={COLOR.ink} />
      ))}
    </Svg>
  )
}
