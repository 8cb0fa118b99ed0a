import { chlorineAhead, chlorineBetween, FLOOR_MGL } from '@evenround/core/disinfection'
import { minutesBetween, type Tide as TideState } from '@evenround/core/job'
import { say } from '@evenround/core/words'
import { useId } from 'react'
import Svg, { Circle, ClipPath, Defs, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg'
import { useUnits } from '../../data/units'
import { COLOR } from '../../ui/colors'
import { figure, inTrade } from '../../ui/format'

interface TideProps {
  tide: TideState
  targetMgL: number
  hours: number
  now: string
  width: number
  clock: (instant: string) => string
}

const HEIGHT = 250
const TOP = 26
const FOOT = 26
const STEPS = 60

/** The contact clock: chlorine falling over time; what is under it fills up. Measured is filled, what is only expected is dashed and pale. */
export function TideDrawing({ tide, targetMgL, hours, now, width, clock }: TideProps) {
  const id = useId().replace(/[^a-zA-Z0-9]/g, '')
  const nowMinute = minutesBetween(tide.from, now)
  const end = Math.max(hours * 60, nowMinute, tide.points.at(-1)?.minute ?? 0) * 1.02
  const most = Math.max(targetMgL, ...tide.points.map(({ mgL }) => mgL)) * 1.12
  const x = (minute: number): number => (Math.max(0, minute) / end) * width
  const y = (mgL: number): number => TOP + (1 - Math.min(1, mgL / most)) * (HEIGHT - TOP - FOOT)
  const lastMinute = tide.points.at(-1)?.minute ?? 0
  const base = HEIGHT - FOOT
  const run = (from: number, to: number, at: (minute: number) => number): string =>
    Array.from({ length: STEPS + 1 }, (_, index) => from + ((to - from) * index) / STEPS)
      .map((minute, index) => `${index === 0 ? 'M' : 'L'}${x(minute).toFixed(1)} ${y(at(minute)).toFixed(1)}`)
      .join('')
  const measured = lastMinute > 0 ? run(0, lastMinute, (minute) => chlorineBetween(tide.points, minute) ?? 0) : ''
  const expected = run(lastMinute, end, (minute) => chlorineAhead(tide.points, tide.result, minute))
  const waves = Array.from({ length: Math.ceil((base - TOP) / 14) }, (_, index) => TOP + 8 + index * 14)
  const wave = (at: number): string => ['M0', at, ...Array.from({ length: Math.ceil(width / 16) + 1 }, () => 'q4 -4 8 0t8 0')].join(' ')
  const units = useUnits()
  const label = inTrade(
    say`Contact since ${clock(tide.from)}: ${tide.points.map(({ mgL, at }) => say`${figure(mgL)} mg/L at ${clock(at)}`).join(', ')}; target ${targetMgL}, floor ${FLOOR_MGL}`,
    units,
  )
  return (
    <Svg width={width} height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} role="img" aria-label={label}>
      <Defs>
        <ClipPath id={`sea${id}`}>
          <Path d={measured === '' ? 'M0 0' : `${measured}L${x(lastMinute)} ${base}L0 ${base}Z`} />
        </ClipPath>
      </Defs>
      <Path d={`${expected}L${x(end)} ${base}L${x(lastMinute)} ${base}Z`} fill={COLOR.brine} opacity={0.16} />
      {measured === '' ? null : (
        <>
          <Path d={`${measured}L${x(lastMinute)} ${base}L0 ${base}Z`} fill={COLOR.brine} />
          <G clipPath={`url(#sea${id})`}>
            {waves.map((at) => (
              <Path key={at} d={wave(at)} stroke={COLOR.paper} strokeWidth={1.5} opacity={0.35} fill="none" />
            ))}
          </G>
        </>
      )}
      <Path d={expected} stroke={COLOR.brine} strokeWidth={2} strokeDasharray="5 5" fill="none" />
      <Line x1={0} x2={width} y1={y(targetMgL)} y2={y(targetMgL)} stroke={COLOR.quiet} strokeWidth={1} />
      <SvgText x={4} y={y(targetMgL) - 6} fontSize={12} fontFamily="Atkinson, Verdana" fill={COLOR.quiet}>
        {say`${figure(targetMgL)} target`}
      </SvgText>
      <Line x1={0} x2={width} y1={y(FLOOR_MGL)} y2={y(FLOOR_MGL)} stroke={COLOR.oxblood} strokeWidth={2} strokeDasharray="2 4" />
      <SvgText x={width - 4} y={y(FLOOR_MGL) - 6} fontSize={12} textAnchor="end" fontFamily="Atkinson, Verdana" fill={COLOR.oxblood}>
        {say`${FLOOR_MGL} at the end`}
      </SvgText>
      <Rect x={0} y={base} width={width} height={2} fill={COLOR.line} />
      {nowMinute >= 0 && nowMinute <= end ? (
        <>
          <Line x1={x(nowMinute)} x2={x(nowMinute)} y1={10} y2={base} stroke={COLOR.ink} strokeWidth={2} />
          <SvgText
            x={x(nowMinute) + (nowMinute > end * 0.8 ? -6 : 6)}
            y={18}
            fontSize={12}
            textAnchor={nowMinute > end * 0.8 ? 'end' : 'start'}
            fontFamily="Atkinson, Verdana"
            fontWeight="700"
            fill={COLOR.ink}
          >
            {say`now`}
          </SvgText>
        </>
      ) : null}
      {tide.points.map(({ minute, mgL }) => (
        <Circle key={minute} cx={Math.max(8, x(minute))} cy={y(mgL)} r={6} stroke={COLOR.ink} strokeWidth={3} fill={COLOR.paper} />
      ))}
      {[0, hours * 30, hours * 60].map((minute, index) => (
        <SvgText
          key={minute}
          x={index === 0 ? 0 : Math.min(width, x(minute))}
          y={HEIGHT - 6}
          fontSize={12}
          textAnchor={index === 0 ? 'start' : index === 1 ? 'middle' : 'end'}
          fontFamily="Atkinson, Verdana"
          fill={COLOR.quiet}
        >
          {clock(new Date(Date.parse(tide.from) + minute * 60_000).toISOString())}
        </SvgText>
      ))}
    </Svg>
  )
}
