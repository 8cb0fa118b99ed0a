import { useDraggable, useDroppable } from '@dnd-kit/core'
import { say } from '@evenround/core/words'
import { Pressable, View } from 'react-native'
import Svg, { Circle, Path, Line as SvgLine } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import { timeOfDay } from '../../ui/format'
import { T } from '../../ui/text'
import { useWebRef } from '../../ui/web-ref'
import type { Line, LineStop } from './plan-view'
import { keyOf } from './price'
import { weekdayWord } from './words'

export const LABEL_PX = 92
const BASE = 34
const HEIGHT = 46

/** The stretch of the day that all lines of a screen are drawn to. */
export interface Scale {
  fromMin: number
  toMin: number
  width: number
}
export const xOf = ({ fromMin, toMin, width }: Scale, minute: number): number => ((minute - fromMin) / (toMin - fromMin)) * width

interface PlanLineProps {
  line: Line
  scale: Scale
  /** What is being carried: its own place is drawn dashed. */
  carriedId: string | null
  /** This line is where it would be let go. */
  target: boolean
  /** It may be let go here at all. */
  possible: boolean
  chosenId: string | null
  marks: ReadonlyMap<string, 'pin' | 'promise'>
  moved: ReadonlySet<string>
  onChoose: (visitId: string) => void
  everybody: boolean
}

/** One van's day to scale: work thick, driving thin, a ferry an arc, a promise a pin, the level a mark, slack dotted. */
export function PlanLine({ line, scale, carriedId, target, possible, chosenId, marks, moved, onChoose, everybody }: PlanLineProps) {
  const ref = useWebRef(useDroppable({ id: keyOf(line), disabled: !possible }).setNodeRef)
  const share = line.toMin > line.fromMin ? Math.round((100 * line.loadMin) / (line.toMin - line.fromMin)) : 0
  const slackTo = Math.max(line.toMin, line.homeMin ?? line.fromMin)
  const x = (minute: number): number => xOf(scale, minute)
  const home = line.homeMin ?? line.fromMin
  return (
    <View
      ref={ref}
      testID={`line-${line.iso}-${line.technician}`}
      className={`flex-row border-t-2 py-2 ${target ? 'border-kelp bg-sheet' : 'border-line'} ${carriedId !== null && !possible ? 'opacity-40' : ''}`}
    >
      <View style={{ width: LABEL_PX }} className="pr-2">
        <T kind="label">{weekdayWord(line.iso)}</T>
        <T kind="small">{everybody ? `${line.name.split(' ')[0]} · ${share} %` : `${share} %`}</T>
      </View>
      <View style={{ width: scale.width }}>
        <View style={{ height: HEIGHT }}>
          <Svg width={scale.width} height={HEIGHT} style={{ position: 'absolute' }} aria-hidden>
            {line.stops.length > 0 ? (
              <SvgLine x1={x(line.stops[0]?.departMin ?? home)} x2={x(home)} y1={BASE} y2={BASE} stroke={COLOR.ink} strokeWidth={2} />
            ) : null}
            <SvgLine
              x1={x(line.stops.length > 0 ? home : line.fromMin)}
              x2={x(slackTo)}
              y1={BASE}
              y2={BASE}
              stroke={COLOR.quiet}
              strokeWidth={2}
              strokeDasharray="0.5 6"
              strokeLinecap="round"
            />
            {line.ferries.map(({ fromMin, toMin, sailsMin }) => (
              <Path
                key={sailsMin}
                d={`M${x(fromMin)} ${BASE} Q ${(x(fromMin) + x(toMin)) / 2} ${BASE - 44} ${x(toMin)} ${BASE}`}
                fill="none"
                stroke={COLOR.brine}
                strokeWidth={3}
              />
            ))}
            {line.stops.map(({ visit, startMin }) => {
              const mark = marks.get(visit.id)
              return mark || visit.promised ? <Pin key={visit.id} x={x(startMin) + 5} promise={mark !== 'pin'} /> : null
            })}
          </Svg>
          {line.stops.map((stop) => (
            <Block
              key={stop.visit.id}
              stop={stop}
              left={x(stop.startMin)}
              width={Math.max(14, x(stop.leaveMin) - x(stop.startMin))}
              dashed={stop.visit.id === carriedId}
              chosen={stop.visit.id === chosenId}
              onChoose={onChoose}
            />
          ))}
        </View>
        <View
          aria-hidden
          style={{
            position: 'absolute',
            left: x((line.stops[0]?.departMin ?? line.fromMin) + line.levelMin),
            top: BASE - 18,
            width: 3,
            height: 32,
            zIndex: 2,
            // It may stand on a visit, which is tapped through it.
            pointerEvents: 'none',
          }}
          testID="level"
          className="bg-copper"
        />
        <Names line={line} scale={scale} chosenId={chosenId} moved={moved} onChoose={onChoose} />
      </View>
    </View>
  )
}

function Pin({ x, promise }: { x: number; promise: boolean }) {
  return (
    <>
      <SvgLine x1={x} x2={x} y1={8} y2={BASE - 10} stroke={COLOR.ink} strokeWidth={2} />
      {promise ? <Circle cx={x} cy={7} r={4.5} fill={COLOR.ink} /> : <Path d={`M${x - 5} 3 h10 v7 h-10 z`} fill={COLOR.ink} />}
    </>
  )
}

interface BlockProps {
  stop: LineStop
  left: number
  width: number
  dashed: boolean
  chosen: boolean
  onChoose: (visitId: string) => void
}

/** A visit's work: thick, and to be carried. */
function Block({ stop, left, width, dashed, chosen, onChoose }: BlockProps) {
  const { visit, startMin, leaveMin } = stop
  const { setNodeRef, listeners, transform, isDragging } = useDraggable({ id: visit.id })
  const ref = useWebRef(setNodeRef)
  const fixed = visit.kind === 'job'
  return (
    <Pressable
      ref={ref}
      {...(fixed ? {} : (listeners as object))}
      role="button"
      aria-label={say`${visit.siteName}, ${timeOfDay(startMin)} to ${timeOfDay(leaveMin)}`}
      aria-pressed={chosen}
      testID={`visit-${visit.id}`}
      onPress={() => onChoose(visit.id)}
      style={{
        position: 'absolute',
        left,
        width,
        top: BASE - 12,
        height: 24,
        zIndex: isDragging ? 20 : 1,
        ...(transform ? { transform: [{ translateX: transform.x }, { translateY: transform.y }] } : {}),
        ...({ touchAction: 'pan-y', cursor: fixed ? 'default' : 'grab' } as object),
      }}
      className={`rounded-[4px] border-2 ${dashed && !isDragging ? 'border-dashed border-kelp bg-paper' : chosen ? 'border-copper bg-kelp' : 'border-kelp bg-kelp'}`}
    />
  )
}

const CHAR_PX = 6.6
/** Names under their work, a row lower where they would run into one another. */
function Names({ line, scale, chosenId, moved, onChoose }: Pick<PlanLineProps, 'line' | 'scale' | 'chosenId' | 'moved' | 'onChoose'>) {
  const ends: number[] = []
  const names = line.stops.map(({ visit, startMin }) => {
    const text = `${visit.siteName}${moved.has(visit.id) ? ' ·' : ''}`
    const wide = text.length * CHAR_PX + 8
    const left = Math.max(0, Math.min(xOf(scale, startMin), scale.width - wide))
    let row = ends.findIndex((end) => end <= left)
    if (row < 0) row = ends.length
    ends[row] = left + wide
    return { visit, text, left, row }
  })
  return (
    <View style={{ height: Math.max(1, ends.length) * 19 }}>
      {names.map(({ visit, text, left, row }) => (
        <Pressable
          key={visit.id}
          tabIndex={-1}
          aria-hidden
          onPress={() => onChoose(visit.id)}
          style={{ position: 'absolute', left, top: row * 19 }}
        >
          <T kind="small" className={`text-ink ${visit.id === chosenId ? 'font-text-bold' : ''}`} numberOfLines={1}>
            {text}
          </T>
        </Pressable>
      ))}
    </View>
  )
}
