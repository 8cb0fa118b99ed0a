import { say } from '@evenround/core/words'
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg'
import { COLOR } from './colors'

export interface DayLineStop {
  id: string
  leaveMin: number
  arriveMin: number
  workMin: number
  ferryAt: string | null
  promised: boolean
  state: 'done' | 'next' | 'later'
}

interface DayLineProps {
  fromMin: number
  toMin: number
  homeMin: number | null
  stops: readonly DayLineStop[]
  width: number
  label: string
}

const clock = (minutes: number): string =>
  `${String(Math.floor(minutes / 60)).padStart(2, '0')}:${String(Math.floor(minutes % 60)).padStart(2, '0')}`
const FILL = { done: COLOR.lichen, next: COLOR.kelp, later: COLOR.quiet } as const

/** The van's day to scale: work thick, driving thin, a ferry an arc, a promise a pin, slack dotted. */
export function DayLine({ fromMin, toMin, homeMin, stops, width, label }: DayLineProps) {
  const last = Math.max(toMin, homeMin ?? 0)
  const x = (minutes: number): number => 2 + ((minutes - fromMin) / (last - fromMin)) * (width - 4)
  const base = 40
  const home = homeMin ?? fromMin
  return (
    <Svg width={width} height={66} viewBox={`0 0 ${width} 66`} role="img" aria-label={label}>
      <Line x1={x(fromMin)} x2={x(home)} y1={base} y2={base} stroke={COLOR.quiet} strokeWidth={2} />
      <Line
        x1={x(home)}
        x2={x(last)}
        y1={base}
        y2={base}
        stroke={COLOR.quiet}
        strokeWidth={2}
        strokeDasharray="1 6"
        strokeLinecap="round"
      />
      {stops.map((stop) => {
        const from = x(stop.arriveMin)
        const to = x(stop.arriveMin + stop.workMin)
        const leave = x(stop.leaveMin)
        return (
          <G key={stop.id}>
            <Ferry at={stop.ferryAt} from={leave} to={from} base={base} />
            <Rect x={from} y={base - 14} width={Math.max(4, to - from)} height={14} rx={3} fill={FILL[stop.state]} />
            {stop.promised ? <Line x1={from + 2} x2={from + 2} y1={base - 20} y2={base - 8} stroke={COLOR.ink} strokeWidth={2} /> : null}
            {stop.promised ? <Circle cx={from + 2} cy={base - 20} r={3.5} fill={COLOR.ink} /> : null}
          </G>
        )
      })}
      <SvgText x={2} y={62} fontSize={12} fontFamily="Atkinson, Verdana" fill={COLOR.quiet}>
        {clock(fromMin)}
      </SvgText>
      <SvgText x={width - 2} y={62} fontSize={12} fontFamily="Atkinson, Verdana" textAnchor="end" fill={COLOR.quiet}>
        {clock(last)}
      </SvgText>
    </Svg>
  )
}

/** Half the width of "ferry 08:30", so that an early one is not cut off at the edge. */
const HALF_WORD = 34

function Ferry({ at, from, to, base }: { at: string | null; from: number; to: number; base: number }) {
  if (at === null) return null
  const middle = (from + to) / 2
  return (
    <>
      <Line x1={from} x2={to} y1={base} y2={base} stroke={COLOR.paper} strokeWidth={4} />
      <Path d={`M${from} ${base} Q ${middle} ${base + 22} ${to} ${base}`} fill="none" stroke={COLOR.brine} strokeWidth={3} />
      <SvgText x={Math.max(middle, HALF_WORD)} y={12} fontSize={12} fontFamily="Atkinson, Verdana" textAnchor="middle" fill={COLOR.quiet}>
        {say`ferry ${at}`}
      </SvgText>
    </>
  )
}
