import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import Svg, { Circle, Line, Rect, Text as SvgText } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import { percent } from '../../ui/format'
import { T } from '../../ui/text'

interface PassageBarProps {
  passage: number
  watch: number
  replace: number
  baseline: number | null
}

/** How much of the dissolved matter comes through, against the limits in force and the membrane's own start. */
export function PassageBar({ passage, watch, replace, baseline }: PassageBarProps) {
  const [width, setWidth] = useState(0)
  // A passage far over the limit fills the bar; the limits keep their room.
  const top = Math.max(replace * 1.35, Math.min(passage * 1.1, replace * 1.8))
  const x = (share: number): number => (Math.min(share, top) / top) * width
  const mark = (share: number, color: string) => <Line x1={x(share)} x2={x(share)} y1={0} y2={30} stroke={color} strokeWidth={3} />
  const word = (share: number, text: string, y: number, color: string) => {
    const anchor = x(share) > width - 70 ? 'end' : x(share) < 60 ? 'start' : 'middle'
    return (
      <SvgText x={x(share)} y={y} fontSize={13} fontFamily="Atkinson, Verdana" textAnchor={anchor} fill={color}>
        {text}
      </SvgText>
    )
  }
  return (
    <View onLayout={(event) => setWidth(event.nativeEvent.layout.width)} className="gap-1">
      <T kind="strong">{say`Passage ${percent(passage)}`}</T>
      {width > 0 ? (
        <Svg
          width={width}
          height={80}
          viewBox={`0 0 ${width} 80`}
          role="img"
          aria-label={say`Passage ${percent(passage)}, good to ${percent(watch)}, replace at ${percent(replace)}${baseline === null ? '' : say`, when new ${percent(baseline)}`}`}
        >
          <Rect x={0} y={5} width={width} height={20} rx={3} fill={COLOR.brinePale} />
          <Rect x={0} y={5} width={x(passage)} height={20} rx={3} fill={COLOR.brine} />
          {mark(watch, COLOR.ink)}
          {mark(replace, COLOR.oxblood)}
          {baseline === null ? null : <Circle cx={x(baseline)} cy={15} r={6} fill={COLOR.sheet} stroke={COLOR.ink} strokeWidth={2} />}
          {word(watch, say`good to ${percent(watch)}`, 43, COLOR.quiet)}
          {word(replace, say`replace at ${percent(replace)}`, 60, COLOR.oxblood)}
          {baseline === null ? null : word(baseline, say`when new ${percent(baseline)}`, 77, COLOR.quiet)}
        </Svg>
      ) : (
        <View className="h-20" />
      )}
    </View>
  )
}
