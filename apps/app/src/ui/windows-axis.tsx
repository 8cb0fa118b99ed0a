import { scaleLinear } from 'd3-scale'
import Svg, { G, Line, Rect, Text as SvgText } from 'react-native-svg'
import { COLOR } from './colors'

export interface AxisWindow {
  id: string
  label: string
  from: number
  middle: number
  to: number
  /** The one that decides. */
  strong: boolean
}

interface WindowsAxisProps {
  windows: readonly AxisWindow[]
  /** Day numbers of the axis' ends; 0 is today. */
  first: number
  last: number
  /** Ticks as day numbers with their words. */
  ticks: readonly { at: number; label: string }[]
  due: number | null
  width: number
  label: string
}

const ROW = 40
const TOP = 22

/** Windows under one another on one time axis: band 10 to 90 %, mark the median, notch the plan's day. */
export function WindowsAxis({ windows, first, last, ticks, due, width, label }: WindowsAxisProps) {
  const x = scaleLinear([first, last], [4, width - 4]).clamp(true)
  const height = TOP + windows.length * ROW + 6
  return (
    <Svg width={width} height={height} viewBox={`0 0 ${width} ${height}`} role="img" aria-label={label}>
      {ticks.map(({ at, label: text }) => (
        <G key={at}>
          <Line x1={x(at)} x2={x(at)} y1={TOP - 4} y2={height} stroke={COLOR.line} strokeWidth={1} />
          <SvgText x={x(at) + 3} y={12} fontSize={12} fontFamily="Atkinson, Verdana" fill={COLOR.quiet}>
            {text}
          </SvgText>
        </G>
      ))}
      <Line x1={x(0)} x2={x(0)} y1={TOP - 6} y2={height} stroke={COLOR.ink} strokeWidth={2} />
      {due === null ? null : (
        <Line x1={x(due)} x2={x(due)} y1={TOP - 6} y2={height} stroke={COLOR.copper} strokeWidth={3} strokeDasharray="6 3" />
      )}
      {windows.map((one, index) => {
        const y = TOP + index * ROW
        return (
          <G key={one.id}>
            <HaloText x={6} y={y + 12} strong={one.strong} text={one.label} />
            <Rect
              x={x(one.from)}
              y={y + 17}
              width={Math.max(4, x(one.to) - x(one.from))}
              height={14}
              rx={3}
              fill={COLOR.brine}
              opacity={one.strong ? 0.55 : 0.25}
            />
            <Rect x={x(one.middle) - 2} y={y + 17} width={4} height={14} fill={COLOR.brine} />
          </G>
        )
      })}
    </Svg>
  )
}

/** Text on a band of paper, so that lines behind it do not cross its letters. */
function HaloText({ x, y, strong, text }: { x: number; y: number; strong: boolean; text: string }) {
  const font = { x, y, fontSize: 13, fontFamily: strong ? 'AtkinsonBold, Verdana' : 'Atkinson, Verdana' }
  return (
    <>
      <SvgText {...font} fill={COLOR.paper} stroke={COLOR.paper} strokeWidth={6} aria-hidden>
        {text}
      </SvgText>
      <SvgText {...font} fill={COLOR.ink}>
        {text}
      </SvgText>
    </>
  )
}
