import { filledShare, type YearFigures } from '@evenround/contract/year-page'
import { say } from '@evenround/core/words'
import Svg, { G, Path, Text as SvgText } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import { RING_FONT, RingLevel, RingMonths, RingText, RingWeek } from '../../ui/ring-parts'
import { piece, weekAngles } from '../../ui/ring-piece'

interface YearRingProps {
  figures: YearFigures
  /** The chosen week's Monday. */
  week: string
  onWeek: (week: string) => void
  size: number
}

/** A week this many times the level reaches the rim; more is drawn no longer. */
const MOST = 1.9

/**
 * The planned year as a circle of weeks: what is promised innermost, then what wear says, then what is only expected; what goes beyond the
 * hours there are stands out. A line shows the hours of a week where they end within the drawing.
 */
export function YearRing({ figures, week, onWeek, size }: YearRingProps) {
  const middle = size / 2
  const inner = size * 0.27
  const level = size * 0.385
  // A week of the usual hours on the level: the middle one of those somebody works in.
  const hours = figures.weeks.flatMap(({ capacityMin }) => (capacityMin > 0 ? [capacityMin] : [])).sort((a, b) => a - b)
  const usual = filledShare(figures.weeks) * (hours[Math.floor(hours.length / 2)] ?? 0)
  const radius = (minutes: number): number => (usual === 0 ? inner : inner + (level - inner) * Math.min(MOST, minutes / usual))
  const spread = Math.round(figures.variation * 100)
  const label = say`The year by weeks: plus or minus ${spread} per cent, ${figures.overWeeks} weeks with more work than hours`
  return (
    <Svg width={size} height={size} viewBox={`0 0 ${size} ${size}`} role="img" aria-label={label}>
      <G transform={`translate(${middle} ${middle})`}>
        {figures.weeks.map((one) => {
          const [from, to] = weekAngles(one.week)
          const path = (low: number, high: number): string => piece(from, to, low, Math.max(low + 0.01, high))
          const [fixed, likely] = [radius(one.fixedMin), radius(one.fixedMin + one.likelyMin)]
          const [ends, top] = [radius(one.capacityMin), Math.max(inner + 1.5, radius(one.loadMin))]
          return [
            <Path key={one.week} d={path(inner, top)} fill={COLOR.brinePale} />,
            one.likelyMin + one.fixedMin > 0 ? <Path key={`${one.week}-likely`} d={path(inner, likely)} fill={COLOR.brine} /> : null,
            one.fixedMin > 0 ? <Path key={`${one.week}-fixed`} d={path(inner, fixed)} fill={COLOR.kelp} /> : null,
            one.loadMin > one.capacityMin ? (
              <Path key={`${one.week}-over`} d={path(Math.max(inner, ends), top)} fill={COLOR.copper} />
            ) : null,
            one.capacityMin < MOST * usual ? <Path key={`${one.week}-hours`} d={path(ends, ends + 1.4)} fill={COLOR.ink} /> : null,
            <RingWeek
              key={`${one.week}-touch`}
              week={one.week}
              inner={inner}
              rim={size * 0.49}
              chosen={one.week === week}
              onPress={() => onWeek(one.week)}
            />,
          ]
        })}
      </G>
      <RingLevel middle={middle} radius={level} />
      <RingMonths middle={middle} radius={inner - 22} />
      <SvgText
        x={middle}
        y={middle - 4}
        fontSize={size * 0.08}
        fontFamily={RING_FONT}
        fontWeight="700"
        textAnchor="middle"
        fill={COLOR.ink}
      >
        {`± ${spread} %`}
      </SvgText>
      <RingText x={middle} y={middle + 15}>{say`from week to week`}</RingText>
      <RingText x={middle} y={middle + 31}>{say`${Math.round(filledShare(figures.weeks) * 100)} % of hours filled`}</RingText>
    </Svg>
  )
}
