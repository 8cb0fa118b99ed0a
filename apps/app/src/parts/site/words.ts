import type { WaterSource } from '@evenround/core/wear'

export const SOURCE_WORDS: Record<WaterSource, string> = {
  municipal: 'town water',
  'drilled-well': 'drilled well',
  'shallow-well': 'shallow well',
  surface: 'surface water',
  roof: 'rain cistern',
}
