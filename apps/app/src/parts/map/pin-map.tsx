import type { MapFeature } from '@evenround/contract/geo'
import type { Position } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { type GeoPermissibleObjects, geoPath } from 'd3-geo'
import { type PointerEvent, useEffect, useRef, useState } from 'react'
import { View } from 'react-native'
import Svg, { Circle, Path } from 'react-native-svg'
import type { GeometryCollection, Topology } from 'topojson-specification'
import { Button } from '../../ui/button'
import { COLOR } from '../../ui/colors'
import { Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { dragged, gridOf, type MapView, placeAt, projectionOf, viewOf, WORLD, zoomed } from './view'

const HEIGHT = 300
/** A finger that moved less has tapped. */
const TAP_PX = 6
const IN = 0.5
const WHEEL = 1.25
const PIN_PX = 9

/** Coasts and borders of the earth at 1 : 50 million, public domain, loaded when a map is opened. */
async function worldOutlines(): Promise<GeoPermissibleObjects> {
  const [{ mesh }, atlas] = await Promise.all([import('topojson-client'), import('world-atlas/countries-50m.json')])
  const topology = atlas.default as unknown as Topology<{ countries: GeometryCollection }>
  return mesh(topology, topology.objects.countries)
}
interface PinMapProps {
  value: Position | null
  onChange: (at: Position) => void
  /** What is known already: it says where to look, and helps to find the place. */
  around: readonly Position[]
  /** Finer outlines and roads near the firm, where the server gave them. */
  near?: readonly MapFeature[]
}

/** A map to set a pin on: a tap sets it, dragging moves the map. */
export function PinMap({ value, onChange, around, near = [] }: PinMapProps) {
  const outlines = useQuery({
    queryKey: ['world-outlines'],
    queryFn: worldOutlines,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: Number.POSITIVE_INFINITY,
  })
  const [width, setWidth] = useState(0)
  const [view, setView] = useState<MapView>(() => (value ? { ...viewOf([value]), ...value } : viewOf(around)))
  const hold = useRef<{ from: [number, number]; view: MapView; moved: boolean } | null>(null)
  const box = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const element = box.current
    if (!element) return
    const onWheel = (event: WheelEvent): void => {
      event.preventDefault()
      const { left, top } = element.getBoundingClientRect()
      setView((now) =>
        zoomed(now, element.clientWidth, HEIGHT, event.deltaY > 0 ? WHEEL : 1 / WHEEL, [event.clientX - left, event.clientY - top]),
      )
    }
    // Not passive: the page must not scroll under the map.
    element.addEventListener('wheel', onWheel, { passive: false })
    return () => element.removeEventListener('wheel', onWheel)
  }, [])
  const pointOf = (event: PointerEvent): [number, number] => {
    const { left, top } = event.currentTarget.getBoundingClientRect()
    return [event.clientX - left, event.clientY - top]
  }
  const onDown = (event: PointerEvent): void => {
    event.currentTarget.setPointerCapture?.(event.pointerId)
    hold.current = { from: pointOf(event), view, moved: false }
  }
  const onMove = (event: PointerEvent): void => {
    const held = hold.current
    if (!held) return
    const to = pointOf(event)
    if (Math.hypot(to[0] - held.from[0], to[1] - held.from[1]) > TAP_PX) held.moved = true
    if (held.moved) setView(dragged(held.view, width, HEIGHT, held.from, to))
  }
  const onUp = (event: PointerEvent): void => {
    const held = hold.current
    hold.current = null
    if (!held || held.moved || width === 0) return
    const at = placeAt(view, width, HEIGHT, ...pointOf(event))
    if (at) onChange(at)
  }
  const middle: [number, number] = [width / 2, HEIGHT / 2]
  const projection = projectionOf(view, Math.max(1, width), HEIGHT)
  const draw = geoPath(projection).digits(1)
  const dot = ({ lat, lon }: Position): [number, number] | null => {
    const at = projection([lon, lat])
    return at && at[0] >= 0 && at[0] <= width && at[1] >= 0 && at[1] <= HEIGHT ? at : null
  }
  const lines = near.flatMap(({ properties, geometry }) =>
    properties.kind === 'outline' || properties.kind === 'road' || properties.kind === 'island' ? [geometry as GeoPermissibleObjects] : [],
  )
  const pin = value ? dot(value) : null
  return (
    <View className="gap-2">
      <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)}>
        <div
          ref={box}
          data-testid="pin-map"
          onPointerDown={onDown}
          onPointerMove={onMove}
          onPointerUp={onUp}
          onPointerCancel={() => {
            hold.current = null
          }}
          style={FRAME}
        >
          <Svg width={width} height={HEIGHT} role="img" aria-label={say`Map: tap where it is; drag to move the map`}>
            <Path d={draw(gridOf(view)) ?? ''} fill="none" stroke={COLOR.line} strokeWidth={1} strokeDasharray="2 4" />
            {outlines.data ? (
              <Path d={draw(outlines.data) ?? ''} fill="none" stroke={COLOR.brine} strokeWidth={view.span > 60 ? 0.75 : 1.5} />
            ) : null}
            {lines.map((line, index) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name than their place
              <Path key={index} d={draw(line) ?? ''} fill="none" stroke={COLOR.quiet} strokeWidth={1} />
            ))}
            {around.map((place) => {
              const at = dot(place)
              return at ? <Circle key={`${place.lat},${place.lon}`} cx={at[0]} cy={at[1]} r={3.5} fill={COLOR.quiet} /> : null
            })}
            {pin ? (
              <>
                <Circle cx={pin[0]} cy={pin[1]} r={PIN_PX} fill="none" stroke={COLOR.copper} strokeWidth={4} />
                <Path
                  d={`M${pin[0]} ${pin[1] - 2 * PIN_PX}v${PIN_PX} M${pin[0]} ${pin[1] + PIN_PX}v${PIN_PX} M${pin[0] - 2 * PIN_PX} ${pin[1]}h${PIN_PX} M${pin[0] + PIN_PX} ${pin[1]}h${PIN_PX}`}
                  stroke={COLOR.copper}
                  strokeWidth={2.5}
                />
                <Circle cx={pin[0]} cy={pin[1]} r={2.5} fill={COLOR.ink} />
              </>
            ) : null}
          </Svg>
        </div>
      </View>
      {outlines.isPending ? <Waiting what={say`Loading coasts and borders`} /> : null}
      {outlines.error ? (
        <T kind="quiet">{say`Coasts and borders are not on this device yet: the grid and your sites show where you are.`}</T>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Closer`} onPress={() => setView((now) => zoomed(now, width, HEIGHT, IN, pin ?? middle))} />
        <Button label={say`Further`} onPress={() => setView((now) => zoomed(now, width, HEIGHT, 1 / IN, middle))} />
        <Button label={say`Whole world`} onPress={() => setView(WORLD)} />
      </View>
    </View>
  )
}
const FRAME = {
  height: HEIGHT,
  overflow: 'hidden',
  touchAction: 'none',
  cursor: 'crosshair',
  border: `2px solid ${COLOR.line}`,
  borderRadius: 8,
} as const
