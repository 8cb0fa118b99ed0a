import { useWindowDimensions } from 'react-native'

/** From this width the rail stands on the left and lists stand beside what they list. */
const DESK_FROM_PX = 900

export const useDesk = (): boolean => useWindowDimensions().width >= DESK_FROM_PX
