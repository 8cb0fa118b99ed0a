import type { HoldKind } from '@evenround/core/train'
import { caution } from '@evenround/core/words'

export const HOLD_WORDS: Record<HoldKind, string> = {
  'do-not-use': caution`do not use the water`,
  'do-not-drink': caution`do not drink`,
  'boil-or-bottled': caution`boil or bottled`,
  'low-flow': caution`low flow only`,
  'first-tank': caution`first tank away`,
  ice: caution`first ice away`,
}
