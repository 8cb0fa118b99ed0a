import type { YearView } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import Svg, { G, Path, Text as SvgText } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import { RING_FONT, RingLevel, RingMonths, RingText, RingWeek } from '../../ui/ring-parts'
import { piece, weekAngles } from '../../ui/ring-piece'

interface RingProps {
  year: YearView
  /** The week whose days stand open. */
  week: string
  onWeek: (week: string) => void
  size: number
}

/** A week this many times the level reaches the rim; more is drawn no longer. */
const MOST = 1.9

/** The year as a circle of weeks: heavier than the level bulges outward, lighter dents inward. An even round is round. */
export function Ring({ year, week, onWeek, size }: RingProps) {
  const middle = size / 2
  const inner = size * 0.27
  const level = size * 0.385
  const radius = (minutes: number): number => (year.level === 0 ? inner : inner + (level - inner) * Math.min(MOST, minutes / year.level))
  const filled = year.filled == null ? null : Math.round(year.filled * 100)
  const label = say`${filled === null ? '' : say`${filled} per cent of the working hours there are. `}The year: plus or minus ${Math.round(year.spread * 100)} per cent of a level week in the planned weeks, ${Math.round(year.beyond * 100)} beyond`
  return (
    <Svg width={size} height={size} viewBox={`0 0 ${size} ${size}`} role="img" aria-label={label}>
      <G transform={`translate(${middle} ${middle})`}>
        {year.weeks.map((one) => {
          const [from, to] = weekAngles(one.week)
          const r = Math.max(inner + 1.5, radius(one.minutes))
          const path = (low: number, high: number): string => piece(from, to, low, high)
          return [
            <Path key={one.week} d={path(inner, r)} fill={one.planned ? COLOR.kelp : COLOR.brinePale} opacity={one.part ? 0.55 : 1} />,
            <RingWeek
              key={`${one.week}-touch`}
              week={one.week}
              inner={inner}
              rim={size * 0.49}
              chosen={one.week === week}
              onPress={one.planned ? () => onWeek(one.week) : undefined}
            />,
          ]
        })}
      </G>
      <RingLevel middle={middle} radius={level} />
      <RingMonths middle={middle} radius={inner - 22} />
      <SvgText
        x={middle}
        y={middle - 16}
        fontSize={size * 0.085}
        fontFamily={RING_FONT}
        fontWeight="700"
        textAnchor="middle"
        fill={COLOR.ink}
      >
        {year.spread === 0 || filled === null ? say`open` : `${filled} %`}
      </SvgText>
      <RingText x={middle} y={middle + 3}>
        {year.spread === 0 ? say`nothing planned yet` : say`of hours filled`}
      </RingText>
      {[
        ...(year.spread === 0 ? [] : [say`weeks ± ${Math.round(year.spread * 100)} %`]),
        say`later ± ${Math.round(year.beyond * 100)} %`,
      ].map((text, index) => (
        <RingText key={text} x={middle} y={middle + 19 + 15 * index}>
          {text}
        </RingText>
      ))}
    </Svg>
  )
}
