import type { PlaceKind, WaterSource } from '@evenround/core/wear'
import { say } from '@evenround/core/words'

export const SOURCE_WORDS: Record<WaterSource, string> = {
  municipal: say`town water`,
  'drilled-well': say`drilled well`,
  'shallow-well': say`shallow well`,
  surface: say`surface water`,
  roof: say`rain cistern`,
}

export const PLACE_WORDS: Record<PlaceKind, string> = {
  home: say`home`,
  cafe: say`café`,
  surgery: say`surgery`,
  workshop: say`workshop`,
  vehicle: say`vehicle or boat`,
  'cleaning-round': say`cleaning round`,
}
