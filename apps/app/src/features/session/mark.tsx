import Svg, { Circle, Path } from 'react-native-svg'
import { COLOR } from '../../ui/colors'

/** Our mark: the year as a ring of weeks, a drop in the middle. */
export function Mark({ size }: { size: number }) {
  return (
    <Svg width={size} height={size} viewBox="0 0 32 32" aria-hidden>
      <Circle cx={16} cy={16} r={12.5} fill="none" stroke={COLOR.kelp} strokeWidth={4} strokeDasharray="4.54 2" />
      <Path d="M16 8.5c3 3.7 4.6 6.2 4.6 8.4a4.6 4.6 0 0 1-9.2 0c0-2.2 1.6-4.7 4.6-8.4z" fill={COLOR.brine} />
    </Svg>
  )
}
