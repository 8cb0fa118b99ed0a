import type { HoldKind } from '@evenround/core/train'
import { caution } from '@evenround/core/words'

/** Said when they are asked for: whether the English stands beside them can change while the program is open. */
const WORDS: Record<HoldKind, () => string> = {
  'do-not-use': () => caution`do not use the water`,
  'do-not-drink': () => caution`do not drink`,
  'boil-or-bottled': () => caution`boil or bottled`,
  'low-flow': () => caution`low flow only`,
  'first-tank': () => caution`first tank away`,
  ice: () => caution`first ice away`,
}

export const holdWords = (kind: HoldKind): string => WORDS[kind]()
