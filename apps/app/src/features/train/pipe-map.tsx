import { MEDIA_PROFILES } from '@evenround/core/catalogue'
import { flowPath, type PlayedTrain, stageLabel, type Train, type TrainNode } from '@evenround/core/train'
import { useState } from 'react'
import { View } from 'react-native'
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import { T } from '../../ui/text'

const PRESSURE = { full: 'Under pressure', trapped: 'Shut, not relieved', none: 'No pressure' } as const
const PRESSURE_TONE = { full: 'text-brine', trapped: 'text-copper-text', none: 'text-lichen-text' } as const

const HEIGHT = 108
const PIPE_Y = 46

/** The plumbing as it stands after the ticked steps: bar along is open, bar across is shut. */
export function PipeMap({ train, played, active }: { train: Train; played: PlayedTrain; active: ReadonlySet<string> }) {
  const [width, setWidth] = useState(0)
  const path = flowPath(train).filter(({ kind }) => kind !== 'source')
  const step = width / (path.length + 0.6)
  const x = (index: number): number => step * (index + 0.9)
  const tank = train.nodes.find((node) => node.kind === 'tank')
  const opened = path.filter((node) => node.kind === 'stage' && played.open.has(node.id))
  const state = [
    ...opened.map((node) => (node.kind === 'stage' ? `${stageLabel(node)} open` : '')),
    ...(played.apart.size > 0 ? [`${played.apart.size} line${played.apart.size > 1 ? 's' : ''} off`] : []),
    ...(played.catching ? ['catch in place'] : []),
  ].join(' · ')
  return (
    <View className="border-b-2 border-line bg-sheet px-4 pt-3" onLayout={(event) => setWidth(event.nativeEvent.layout.width - 32)}>
      <View role="status" className="flex-row flex-wrap gap-x-3">
        <T kind="strong" className={PRESSURE_TONE[played.pressure]}>
          {PRESSURE[played.pressure]}
        </T>
        <T kind="quiet">{state}</T>
      </View>
      {width > 0 ? (
        <Svg
          width={width}
          height={HEIGHT}
          viewBox={`0 0 ${width} ${HEIGHT}`}
          role="img"
          aria-label={`Pipe map: ${PRESSURE[played.pressure].toLowerCase()}${state ? `, ${state}` : ''}`}
        >
          <Line
            x1={0}
            x2={x(path.length - 1)}
            y1={PIPE_Y}
            y2={PIPE_Y}
            stroke={played.pressure === 'none' ? COLOR.brinePale : COLOR.brine}
            strokeWidth={6}
          />
          {tank ? <Tank at={x(path.findIndex(({ kind }) => kind === 'tee'))} shut={played.shut.has(tank.id)} /> : null}
          {path.map((node, index) => (
            <Node key={node.id} node={node} x={x(index)} played={played} active={active.has(node.id)} room={step} />
          ))}
        </Svg>
      ) : (
        <View style={{ height: HEIGHT }} />
      )}
    </View>
  )
}

function Node({ node, x, played, active, room }: { node: TrainNode; x: number; played: PlayedTrain; active: boolean; room: number }) {
  if (node.kind === 'valve')
    return <Valve x={x} y={PIPE_Y} shut={played.shut.has(node.id)} word={played.shut.has(node.id) ? 'shut' : 'open'} />
  if (node.kind === 'outlet') return <Tap x={x} open={!played.shut.has(node.id)} />
  if (node.kind === 'pump') return <Circle cx={x} cy={PIPE_Y} r={9} fill={COLOR.sheet} stroke={COLOR.ink} strokeWidth={2} />
  if (node.kind !== 'stage') return null
  const open = played.open.has(node.id)
  const empty = played.empty.has(node.id)
  const vessel = node.housing === 'membrane-vessel' || node.housing === 'push-fit'
  const width = Math.min(vessel ? 34 : 28, room * 0.8)
  const height = vessel ? 22 : 48
  const y = vessel ? PIPE_Y - 11 : PIPE_Y - 24
  const short = MEDIA_PROFILES[node.media].name.split(' ').at(-1) ?? ''
  return (
    <G>
      <Rect
        x={x - width / 2}
        y={y}
        width={width}
        height={height}
        rx={5}
        fill={empty ? COLOR.paper : COLOR.sheet}
        stroke={open || active ? COLOR.copper : COLOR.ink}
        strokeWidth={active ? 3 : 2}
        strokeDasharray={open ? '5 3' : undefined}
      />
      <SvgText
        x={x}
        y={PIPE_Y + 5}
        fontSize={14}
        fontFamily="AtkinsonBold, Verdana"
        textAnchor="middle"
        fill={empty ? COLOR.quiet : COLOR.ink}
      >
        {empty ? '–' : String(node.position)}
      </SvgText>
      <SvgText
        x={x}
        y={vessel ? 28 : node.position % 2 === 1 ? 86 : 100}
        fontSize={11}
        fontFamily="Atkinson, Verdana"
        textAnchor="middle"
        fill={COLOR.quiet}
      >
        {short}
      </SvgText>
    </G>
  )
}

function Valve({ x, y, shut, word }: { x: number; y: number; shut: boolean; word: string }) {
  return (
    <G>
      <Circle cx={x} cy={y} r={11} fill={COLOR.sheet} stroke={COLOR.ink} strokeWidth={2} />
      {shut ? (
        <Line x1={x} x2={x} y1={y - 7} y2={y + 7} stroke={COLOR.ink} strokeWidth={4} />
      ) : (
        <Line x1={x - 7} x2={x + 7} y1={y} y2={y} stroke={COLOR.ink} strokeWidth={4} />
      )}
      <SvgText x={x} y={y + 28} fontSize={12} fontFamily="AtkinsonBold, Verdana" textAnchor="middle" fill={COLOR.ink}>
        {word}
      </SvgText>
    </G>
  )
}

function Tap({ x, open }: { x: number; open: boolean }) {
  return (
    <G>
      <Path d={`M${x - 2} ${PIPE_Y} V 16 H ${x + 10} V 24`} fill="none" stroke={COLOR.brine} strokeWidth={5} />
      {open ? <Line x1={x + 10} x2={x + 10} y1={28} y2={44} stroke={COLOR.brine} strokeWidth={3} strokeDasharray="3 4" /> : null}
      <SvgText x={x + 2} y={PIPE_Y + 28} fontSize={12} fontFamily="Atkinson, Verdana" textAnchor="middle" fill={COLOR.ink}>
        {open ? 'tap open' : 'tap'}
      </SvgText>
    </G>
  )
}

function Tank({ at, shut }: { at: number; shut: boolean }) {
  return (
    <G>
      <Line x1={at} x2={at} y1={PIPE_Y} y2={80} stroke={COLOR.brine} strokeWidth={5} />
      <Rect x={at - 13} y={78} width={26} height={28} rx={11} fill={COLOR.brinePale} stroke={COLOR.ink} strokeWidth={2} />
      <Circle cx={at} cy={64} r={8} fill={COLOR.sheet} stroke={COLOR.ink} strokeWidth={2} />
      {shut ? (
        <Line x1={at - 5} x2={at + 5} y1={64} y2={64} stroke={COLOR.ink} strokeWidth={3} />
      ) : (
        <Line x1={at} x2={at} y1={59} y2={69} stroke={COLOR.ink} strokeWidth={3} />
      )}
    </G>
  )
}
