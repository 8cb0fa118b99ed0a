import type { HoldKind } from '@evenround/core/train'

export const HOLD_WORDS: Record<HoldKind, string> = {
  'do-not-use': 'do not use the water',
  'do-not-drink': 'do not drink',
  'boil-or-bottled': 'boil or bottled',
  'low-flow': 'low flow only',
  'first-tank': 'first tank away',
  ice: 'first ice away',
}
