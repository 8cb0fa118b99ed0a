import { profileOf } from '@evenround/core/catalogue'
import { type PlayedTrain, type StageNode, stageLabel, type Train, type TrainNode } from '@evenround/core/train'
import { midSentence, say } from '@evenround/core/words'
import { memo, useMemo, useState } from 'react'
import { View } from 'react-native'
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import { T } from '../../ui/text'
import { layoutOf } from './map-layout'

const PRESSURE = { full: say`Under pressure`, trapped: say`Shut, not relieved`, none: say`No pressure` } as const
const PRESSURE_TONE = { full: 'text-brine', trapped: 'text-copper-text', none: 'text-lichen-text' } as const

const PIPE_Y = 50
/** Names stand in two rows below the line, so that neighbours do not run into one another. */
const NAME_ROWS = [90, 104] as const
const NAMES_END = 110
const TANK_HEIGHT = 44
const LANE_HEIGHT = 54
const BYPASS_Y = 8

const isStage = (node: TrainNode): node is StageNode => node.kind === 'stage'

/** What the map says in words too: what stands open, what is off, what the water carries. */
function stateWords(train: Train, played: PlayedTrain): string {
  const stages = train.nodes.filter(isStage)
  const carried = new Set(played.carries.values())
  return [
    ...stages.filter(({ id }) => played.open.has(id)).map((stage) => say`${stageLabel(stage)} open`),
    ...(played.apart.size > 0 ? [say`${played.apart.size} line${played.apart.size > 1 ? say`s` : ''} off`] : []),
    ...(played.bypassed.size > 0 ? [say`bypass on`] : []),
    ...(played.off.size > 0 ? [say`power off`] : []),
    ...(carried.size > 0 ? [say`${[...carried].join(', ')} in the water`] : []),
    ...(played.catching ? [say`catch in place`] : []),
  ].join(' · ')
}

interface PipeMapProps {
  train: Train
  played: PlayedTrain
  active: ReadonlySet<string>
  /** Nobody works on it: how it is put together is what counts, not how it presses. */
  atRest?: boolean
}

/** The plumbing as it stands after the ticked steps: bar along is open, bar across is shut. */
export const PipeMap = memo(function PipeMap({ train, played, active, atRest = false }: PipeMapProps) {
  const [width, setWidth] = useState(0)
  const layout = useMemo(() => layoutOf(train), [train])
  const step = width / (layout.columns + 0.6)
  const x = (column: number): number => step * (column + 0.9)
  // What stands beside the line shares its band with the tank: they hang at different places.
  const laneY = NAMES_END + 20
  const below = [layout.tanks.length > 0 ? TANK_HEIGHT : 0, layout.placed.some(({ lane }) => lane === 1) ? LANE_HEIGHT : 0]
  const height = NAMES_END + Math.max(...below)
  const state = atRest ? say`as it stands in service` : stateWords(train, played)
  return (
    <View className="border-b-2 border-line bg-sheet px-4 pt-3" onLayout={(event) => setWidth(event.nativeEvent.layout.width - 32)}>
      <View role="status" className="flex-row flex-wrap gap-x-3">
        {atRest ? null : (
          <T kind="strong" className={PRESSURE_TONE[played.pressure]}>
            {PRESSURE[played.pressure]}
          </T>
        )}
        <T kind="quiet">{state}</T>
      </View>
      {width > 0 ? (
        <Svg
          width={width}
          height={height}
          viewBox={`0 0 ${width} ${height}`}
          role="img"
          aria-label={say`Pipe map: ${midSentence(PRESSURE[played.pressure])}${state ? `, ${state}` : ''}`}
        >
          <Pipes layout={layout} laneY={laneY} played={played} x={x} atRest={atRest} />
          {layout.bypasses.map(({ id, from, to }) => (
            <Bypass key={id} from={x(from)} to={x(to)} on={played.bypassed.has(id)} />
          ))}
          {layout.tanks.map(({ id, column }) => (
            <Tank key={id} at={x(column)} shut={played.shut.has(id)} half={played.half.has(id)} />
          ))}
          {layout.placed.map(({ node, column, lane }) => (
            <Node
              key={`${node.id}.${column}`}
              node={node}
              x={x(column)}
              lane={lane}
              y={lane === 0 ? PIPE_Y : laneY}
              column={column}
              played={played}
              active={active.has(node.id)}
              room={step}
            />
          ))}
        </Svg>
      ) : (
        <View style={{ height }} />
      )}
    </View>
  )
})

interface PipesProps {
  layout: ReturnType<typeof layoutOf>
  laneY: number
  played: PlayedTrain
  x: (column: number) => number
  atRest: boolean
}

/** The line, piece by piece: dark where it presses, pale where it is let out, gone where it is off. */
function Pipes({ layout, laneY, played, x, atRest }: PipesProps) {
  const path = layout.placed.filter(({ lane }) => lane === 0)
  const pressed = (node: TrainNode | undefined): boolean => atRest || node === undefined || played.pressed.has(node.id)
  const off = (from: TrainNode | undefined, to: TrainNode): boolean =>
    [...played.apart].some((line) => line.startsWith(`${from?.id ?? ''}>`) || line.endsWith(`>${to.id}`))
  return (
    <G>
      {path.map(({ node, column }, index) => {
        const before = path[index - 1]?.node
        const from = index === 0 ? 0 : x(column - 1)
        const tone = pressed(before) && pressed(node) ? COLOR.brine : COLOR.brinePale
        return (
          <Line
            key={node.id}
            x1={from}
            x2={x(column)}
            y1={PIPE_Y}
            y2={PIPE_Y}
            stroke={tone}
            strokeWidth={6}
            strokeDasharray={before && off(before, node) ? '6 7' : undefined}
          />
        )
      })}
      {layout.beside.map(({ column, from, to }) => (
        <Path
          key={column}
          d={`M${x(from)} ${PIPE_Y} V${laneY} H${x(to)} V${PIPE_Y}`}
          fill="none"
          stroke={COLOR.brinePale}
          strokeWidth={5}
        />
      ))}
    </G>
  )
}

interface NodeProps {
  node: TrainNode
  x: number
  y: number
  column: number
  lane: 0 | 1
  played: PlayedTrain
  active: boolean
  room: number
}

function Node({ node, x, y, column, lane, played, active, room }: NodeProps) {
  if (node.kind === 'valve') return <Valve x={x} y={y} shut={played.shut.has(node.id)} half={played.half.has(node.id)} />
  if (node.kind === 'outlet')
    return <Tap x={x} open={!played.shut.has(node.id)} word={node.use === 'appliance' ? say`appliance` : say`tap`} />
  if (node.kind === 'pump') return <Machine x={x} word={played.off.has(node.id) ? say`off` : say`pump`} />
  if (node.kind === 'heater') return <Machine x={x} word={played.off.has(node.id) ? say`off` : say`heater`} />
  return isStage(node) ? <Stage node={node} x={x} y={y} column={column} lane={lane} played={played} active={active} room={room} /> : null
}

/** Names short enough to stand below a vessel. */
const SHORT: Partial<Record<StageNode['media'], string>> = {
  'sediment-carbon': say`combined`,
  ultrafiltration: say`ultra`,
  'iron-bed': say`iron bed`,
  'ph-bed': say`pH bed`,
  'chlorine-feed': say`feed`,
  'fluoride-media': say`fluoride`,
  'post-carbon': say`carbon`,
  'deionising-resin': say`resin`,
  'carbon-tank': say`carbon bed`,
  'fridge-internal': say`cartridge`,
  'fridge-inline': say`inline`,
  'uv-lamp': say`lamp`,
  'uv-sleeve': say`sleeve`,
  'air-filter': say`air`,
}

function Stage({ node, x, y, column, lane, played, active, room }: NodeProps & { node: StageNode }) {
  const open = played.open.has(node.id)
  const empty = played.empty.has(node.id)
  const lying = ['membrane-vessel', 'push-fit', 'threaded', 'uv-reactor'].includes(node.housing)
  const width = Math.min(lying ? 34 : node.housing === 'media-tank' ? 38 : 28, room * 0.8)
  const height = lying || lane === 1 ? 24 : 48
  const short = SHORT[node.media] ?? profileOf(node).name
  const under = lane === 1 ? y + 28 : (NAME_ROWS[column % 2 === 1 ? 0 : 1] as number)
  const stroke = open || active ? COLOR.copper : COLOR.ink
  return (
    <G>
      <Rect
        x={x - width / 2}
        y={y - height / 2}
        width={width}
        height={height}
        rx={node.housing === 'media-tank' ? 14 : 5}
        fill={empty ? COLOR.paper : COLOR.sheet}
        stroke={stroke}
        strokeWidth={active ? 3 : 2}
        strokeDasharray={open ? '5 3' : undefined}
      />
      <SvgText x={x} y={y + 5} fontSize={14} fontFamily="AtkinsonBold, Verdana" textAnchor="middle" fill={empty ? COLOR.quiet : COLOR.ink}>
        {empty ? '–' : String(node.position)}
      </SvgText>
      {played.carries.has(node.id) ? <Circle cx={x + width / 2 - 3} cy={y - height / 2 + 3} r={4} fill={COLOR.copper} /> : null}
      <SvgText x={x} y={under} fontSize={11} fontFamily="Atkinson, Verdana" textAnchor="middle" fill={COLOR.quiet}>
        {short}
      </SvgText>
    </G>
  )
}

function Valve({ x, y, shut, half }: { x: number; y: number; shut: boolean; half: boolean }) {
  const tilt = shut ? 90 : half ? 45 : 0
  return (
    <G>
      <Circle cx={x} cy={y} r={11} fill={COLOR.sheet} stroke={COLOR.ink} strokeWidth={2} />
      <Line x1={x - 7} x2={x + 7} y1={y} y2={y} stroke={COLOR.ink} strokeWidth={4} transform={`rotate(${tilt} ${x} ${y})`} />
      <SvgText x={x} y={y + 28} fontSize={12} fontFamily="AtkinsonBold, Verdana" textAnchor="middle" fill={COLOR.ink}>
        {shut ? say`shut` : half ? say`half` : say`open`}
      </SvgText>
    </G>
  )
}

function Machine({ x, word }: { x: number; word: string }) {
  return (
    <G>
      <Circle
        cx={x}
        cy={PIPE_Y}
        r={10}
        fill={COLOR.sheet}
        stroke={COLOR.ink}
        strokeWidth={2}
        strokeDasharray={word === 'off' ? '3 3' : undefined}
      />
      <SvgText x={x} y={PIPE_Y + 28} fontSize={11} fontFamily="Atkinson, Verdana" textAnchor="middle" fill={COLOR.ink}>
        {word}
      </SvgText>
    </G>
  )
}

function Tap({ x, open, word }: { x: number; open: boolean; word: string }) {
  return (
    <G>
      <Path d={`M${x - 2} ${PIPE_Y} V 16 H ${x + 10} V 24`} fill="none" stroke={COLOR.brine} strokeWidth={5} />
      {open ? <Line x1={x + 10} x2={x + 10} y1={28} y2={44} stroke={COLOR.brine} strokeWidth={3} strokeDasharray="3 4" /> : null}
      <SvgText x={x + 2} y={PIPE_Y + 28} fontSize={12} fontFamily="Atkinson, Verdana" textAnchor="middle" fill={COLOR.ink}>
        {open ? say`${word} open` : word}
      </SvgText>
    </G>
  )
}

/** The way round: drawn full while the water takes it. */
function Bypass({ from, to, on }: { from: number; to: number; on: boolean }) {
  return (
    <G>
      <Path
        d={`M${from} ${PIPE_Y} V${BYPASS_Y} H${to} V${PIPE_Y}`}
        fill="none"
        stroke={on ? COLOR.brine : COLOR.line}
        strokeWidth={on ? 5 : 3}
        strokeDasharray={on ? undefined : '2 5'}
      />
      <SvgText
        x={from + 6}
        y={BYPASS_Y + 13}
        fontSize={11}
        fontFamily="Atkinson, Verdana"
        textAnchor="start"
        fill={on ? COLOR.ink : COLOR.quiet}
      >
        {on ? say`bypass on` : say`bypass`}
      </SvgText>
    </G>
  )
}

function Tank({ at, shut, half }: { at: number; shut: boolean; half: boolean }) {
  const top = NAMES_END + 8
  return (
    <G>
      <Line x1={at} x2={at} y1={PIPE_Y} y2={top} stroke={COLOR.brine} strokeWidth={5} />
      <Rect x={at - 13} y={top} width={26} height={TANK_HEIGHT - 14} rx={11} fill={COLOR.brinePale} stroke={COLOR.ink} strokeWidth={2} />
      <Circle cx={at} cy={PIPE_Y + 20} r={8} fill={COLOR.sheet} stroke={COLOR.ink} strokeWidth={2} />
      <Line
        x1={at}
        x2={at}
        y1={PIPE_Y + 15}
        y2={PIPE_Y + 25}
        stroke={COLOR.ink}
        strokeWidth={3}
        transform={`rotate(${shut ? 90 : half ? 45 : 0} ${at} ${PIPE_Y + 20})`}
      />
    </G>
  )
}
