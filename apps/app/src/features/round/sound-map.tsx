import type { MapFeature } from '@evenround/contract/geo'
import type { RoundSet } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { geoMercator, geoPath } from 'd3-geo'
import { useState } from 'react'
import { View } from 'react-native'
import Svg, { Circle, Path, Polyline, Text as SvgText } from 'react-native-svg'
import { useRoundMap } from '../../data/round'
import { COLOR } from '../../ui/colors'
import type { Line } from './plan-view'

const FONT = say`Atkinson, Verdana`
type Point = readonly [number, number]

const outlinesOf = (features: readonly MapFeature[], what: 'coast' | 'border') =>
  features.flatMap(({ properties, geometry }) =>
    properties.kind === 'outline' && properties.what === what && geometry.type === 'LineString' ? [geometry] : [],
  )

const MARGIN = 8
/** No chart is taller than it is wide. */
const TALLEST = 1
const TOP_LEFT: Point = [0, 0]

/** The places and roads as a chart, coasts and borders behind them, with the day's tour from the base and back. */
export function SoundMap({ set, line }: { set: RoundSet; line: Line }) {
  const map = useRoundMap()
  const [width, setWidth] = useState(320)
  const features = (map.data?.features ?? []) as MapFeature[]
  const shown =
    features.length > 0 &&
    set.places.every(({ id }) => features.some(({ properties }) => properties.kind === 'place' && properties.id === id))
  // The whole islands where they are known; elsewhere the day's own places, the base among them.
  const placeOf = new Map(set.places.map((place) => [place.id, place]))
  const base = placeOf.get(set.technicians.find(({ id }) => id === line.technician)?.base ?? '')
  const ofDay = [base, ...line.stops.map(({ visit }) => placeOf.get(visit.place))].flatMap((place) => place ?? [])
  const all: Point[] = shown
    ? features.flatMap(({ geometry }) => (geometry.type === 'Polygon' ? (geometry.coordinates[0] ?? []) : []))
    : ofDay.map(({ lon, lat }): Point => [lon, lat])
  if (all.length < 2) return null
  const points = { type: 'MultiPoint' as const, coordinates: all.map(([lon, lat]): [number, number] => [lon, lat]) }
  const inner = width - 2 * MARGIN
  const free = geoMercator().fitWidth(inner, points)
  const height = Math.min(TALLEST * width, Math.max(0.4 * width, geoPath(free).bounds(points)[1][1] + 2 * MARGIN))
  const side = shown ? MARGIN : 4 * MARGIN
  const projection = geoMercator()
    .fitExtent(
      [
        [side, side],
        [width - side, height - side],
      ],
      points,
    )
    .clipExtent([
      [0, 0],
      [width, height],
    ])
  const draw = geoPath(projection).digits(1)
  const at = ([lon, lat]: Point): Point => projection([lon, lat]) ?? TOP_LEFT
  const text = (points: readonly Point[]): string =>
    points
      .map((point) =>
        at(point)
          .map((one) => one.toFixed(1))
          .join(','),
      )
      .join(' ')
  const tour = [base, ...line.stops.map(({ visit }) => placeOf.get(visit.place)), base].flatMap((place): Point[] =>
    place ? [[place.lon, place.lat]] : [],
  )
  const visited = new Map<string, number>()
  line.stops.forEach(({ visit }, index) => {
    if (!visited.has(visit.place)) visited.set(visit.place, index + 1)
  })
  return (
    <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)} testID="sound-map">
      <Svg
        width={width}
        height={height}
        role="img"
        aria-label={say`Map of the day: ${line.stops.map(({ visit }) => visit.village).join(', ') || say`no stops`}`}
      >
        {(['coast', 'border'] as const).map((what) => (
          <Path
            key={what}
            d={draw({ type: 'GeometryCollection', geometries: outlinesOf(features, what) }) ?? ''}
            fill="none"
            stroke={what === 'coast' ? COLOR.brine : COLOR.quiet}
            strokeWidth={1.5}
            {...(what === 'border' ? { strokeDasharray: '6 4' } : {})}
          />
        ))}
        {features.map(({ properties, geometry }) =>
          properties.kind === 'island' && geometry.type === 'Polygon' ? (
            <Path
              key={properties.name}
              d={`M${text(geometry.coordinates[0] ?? []).replaceAll(' ', ' L')} Z`}
              fill={COLOR.sheet}
              stroke={COLOR.line}
              strokeWidth={2}
            />
          ) : null,
        )}
        {features.map(({ properties, geometry }) =>
          geometry.type === 'LineString' && (properties.kind === 'road' || properties.kind === 'ferry') ? (
            <Polyline
              key={`${properties.kind}${properties.from}${properties.to}${properties.minutes}`}
              points={text(geometry.coordinates)}
              fill="none"
              stroke={properties.kind === 'ferry' ? COLOR.brinePale : COLOR.line}
              strokeWidth={properties.kind === 'ferry' ? 1 : 3}
              {...(properties.kind === 'ferry' ? { strokeDasharray: '2 4' } : {})}
            />
          ) : null,
        )}
        <Polyline points={text(tour)} fill="none" stroke={COLOR.kelp} strokeWidth={3} strokeLinejoin="round" />
        {(shown ? set.places : ofDay.filter((place, index) => ofDay.indexOf(place) === index)).map(({ id, name, lon, lat }) => {
          const [x, y] = at([lon, lat])
          const number = visited.get(id)
          const right = x < width * 0.72
          return [
            <Circle
              key={id}
              cx={x}
              cy={y}
              r={number ? 10 : 3.5}
              fill={number ? COLOR.kelp : id === base?.id ? COLOR.copper : COLOR.quiet}
            />,
            number ? (
              <SvgText
                key={`${id}-n`}
                x={x}
                y={y + 4}
                fontSize={12}
                fontWeight="700"
                fontFamily={FONT}
                textAnchor="middle"
                fill={COLOR.onKelp}
              >
                {String(number)}
              </SvgText>
            ) : null,
            <SvgText
              key={`${id}-name`}
              x={x + (right ? 13 : -13)}
              y={y + (number ? (number % 2 === 1 ? -8 : 18) : 4)}
              fontSize={12}
              fontFamily={FONT}
              textAnchor={right ? 'start' : 'end'}
              fill={COLOR.ink}
            >
              {number || id === base?.id || width > 460 ? name : ''}
            </SvgText>,
          ]
        })}
      </Svg>
    </View>
  )
}
