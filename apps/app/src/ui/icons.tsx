import Svg, { Circle, Line, Path, Rect } from 'react-native-svg'

export type IconName = 'today' | 'round' | 'sites' | 'shelf' | 'book' | 'back' | 'search' | 'on'

const LINES: Record<IconName, React.ReactNode> = {
  today: (
    <>
      <Line x1="3" y1="6" x2="21" y2="6" />
      <Line x1="3" y1="12" x2="14" y2="12" />
      <Line x1="3" y1="18" x2="12" y2="18" />
      <Circle cx="18" cy="16" r="3.2" />
    </>
  ),
  round: (
    <>
      <Circle cx="12" cy="13" r="8" />
      <Line x1="12" y1="2.5" x2="12" y2="7" />
    </>
  ),
  sites: <Path d="M3.5 11.5 12 4l8.5 7.5M6 10v10h12V10M10 20v-6h4v6" />,
  shelf: (
    <>
      <Line x1="3" y1="3" x2="3" y2="21" />
      <Line x1="21" y1="3" x2="21" y2="21" />
      <Line x1="3" y1="10" x2="21" y2="10" />
      <Line x1="3" y1="18" x2="21" y2="18" />
      <Rect x="6.5" y="5" width="4" height="5" />
      <Rect x="13" y="13" width="4" height="5" />
    </>
  ),
  book: (
    <>
      <Path d="M6 3h13v18H6a2 2 0 0 1-2-2V5a2 2 0 0 1 2-2z" />
      <Line x1="9" y1="8" x2="15" y2="8" />
      <Line x1="9" y1="12" x2="15" y2="12" />
    </>
  ),
  back: <Path d="M14.5 5 7.5 12l7 7" />,
  search: (
    <>
      <Circle cx="10.5" cy="10.5" r="6.5" />
      <Line x1="15.5" y1="15.5" x2="21" y2="21" />
    </>
  ),
  on: <Path d="M9.5 5l7 7-7 7" />,
}

/** Our own small drawings, 2 px lines on a grid of 24. */
export function Icon({ name, color, size = 24 }: { name: IconName; color: string; size?: number }) {
  return (
    <Svg
      width={size}
      height={size}
      viewBox="0 0 24 24"
      fill="none"
      stroke={color}
      strokeWidth={2}
      strokeLinecap="round"
      strokeLinejoin="round"
      aria-hidden
    >
      {LINES[name]}
    </Svg>
  )
}
