import type { PlaceKind, WaterSource } from '@evenround/core/wear'

export const SOURCE_WORDS: Record<WaterSource, string> = {
  municipal: 'town water',
  'drilled-well': 'drilled well',
  'shallow-well': 'shallow well',
  surface: 'surface water',
  roof: 'rain cistern',
}

export const PLACE_WORDS: Record<PlaceKind, string> = {
  home: 'home',
  cafe: 'café',
  surgery: 'surgery',
  workshop: 'workshop',
  vehicle: 'vehicle or boat',
  'cleaning-round': 'cleaning round',
}
