import Svg, { Circle, ClipPath, Defs, Line, Path, Rect } from 'react-native-svg'
import { COLOR } from '../../ui/colors'
import type { DraftPart } from './draft'

const W = 52
const H = 52
/** How full it is drawn, where its measures say so. */
function share({ kind, values }: DraftPart): number {
  const { depth, level, diameter, waterDepth } = values
  if (kind === 'casing' && depth && level != null) return Math.max(0.03, Math.min(1, (depth - level) / depth))
  if (kind === 'lying-cylinder' && diameter && waterDepth != null) return Math.max(0, Math.min(1, waterDepth / diameter))
  if (kind === 'pressure-tank') return 0.45
  return 0.75
}

/** A small drawing of a part with the water in it: a shaft, a cylinder, a box, a pipe. */
export function PartDrawing({ part }: { part: DraftPart }) {
  const full = share(part)
  const id = `p${part.id.replace(/[^a-zA-Z0-9]/g, '')}`
  const stroke = { stroke: COLOR.ink, strokeWidth: 2, fill: 'none' } as const
  const water = (x: number, y: number, w: number, h: number, clip?: string) => (
    <Rect
      x={x}
      y={y + h * (1 - full)}
      width={w}
      height={h * full}
      fill={COLOR.brine}
      opacity={0.55}
      {...(clip ? { clipPath: clip } : {})}
    />
  )
  return (
    <Svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} aria-hidden>
      {part.kind === 'casing' ? (
        <>
          {water(19, 6, 14, 42)}
          <Path d="M19 4V48H33V4" {...stroke} />
          <Line x1={6} x2={18} y1={10} y2={10} stroke={COLOR.lichen} strokeWidth={2} />
          <Line x1={34} x2={46} y1={10} y2={10} stroke={COLOR.lichen} strokeWidth={2} />
        </>
      ) : part.kind === 'upright-cylinder' || part.kind === 'known' ? (
        <>
          {water(13, 6, 26, 40)}
          <Rect x={13} y={6} width={26} height={40} rx={6} {...stroke} />
        </>
      ) : part.kind === 'lying-cylinder' ? (
        <>
          <Defs>
            <ClipPath id={id}>
              <Circle cx={26} cy={26} r={20} />
            </ClipPath>
          </Defs>
          {water(6, 6, 40, 40, `url(#${id})`)}
          <Circle cx={26} cy={26} r={20} {...stroke} />
        </>
      ) : part.kind === 'box' ? (
        <>
          {water(6, 14, 40, 30)}
          <Path d="M6 14V44H46V14" {...stroke} />
        </>
      ) : part.kind === 'pressure-tank' ? (
        <>
          {water(14, 8, 24, 36)}
          <Rect x={14} y={8} width={24} height={36} rx={12} {...stroke} />
          <Path d="M14 27Q26 20 38 27" {...stroke} />
        </>
      ) : (
        <>
          <Path d="M4 18H34V46" stroke={COLOR.brine} strokeWidth={9} opacity={0.55} fill="none" />
          <Path d="M4 13H39V46M4 23H29V46" {...stroke} />
        </>
      )}
    </Svg>
  )
}
