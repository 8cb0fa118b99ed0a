import type { PlaceKind, WaterSource } from '../wear'
import { localeNow, say, sayFor } from '../words'
import type { OutletUse, Pump } from './cells'
import { plainWords } from './fields'

/** What a list may hold in the language of the device, beside the English words that are understood everywhere. */
const SOURCES = (): Record<WaterSource, string> => ({
  municipal: say`town water`,
  'drilled-well': say`drilled well`,
  'shallow-well': say`shallow well`,
  surface: say`surface water`,
  roof: say`rain cistern`,
})
const KINDS = (): Record<PlaceKind, string> => ({
  home: say`home`,
  cafe: say`café`,
  surgery: say`surgery`,
  workshop: say`workshop`,
  vehicle: say`vehicle or boat`,
  'cleaning-round': say`cleaning round`,
})
const OUTLETS = (): Record<OutletUse, string> => ({
  drinking: say`Drinking tap`,
  house: say`Tap of the house`,
  ice: say`Ice maker`,
  appliance: say`Appliance`,
  hose: say`Outside tap`,
})
const PUMPS = (): Record<Pump, string> => ({
  well: sayFor('pump')`well`,
  booster: sayFor('pump')`booster`,
  delivery: sayFor('pump')`delivery`,
})
const ANSWERS = (): Record<'yes' | 'no', string> => ({ yes: say`Yes`, no: say`No` })

const byWord = <K extends string>(words: string, named: Record<K, string>): K | undefined =>
  (Object.keys(named) as K[]).find((key) => plainWords(named[key]) === words)

/** Each finds the plain words of a cell among those of the device's language. */
export const ownSource = (words: string): WaterSource | undefined => byWord(words, SOURCES())
export const ownKind = (words: string): PlaceKind | undefined => byWord(words, KINDS())
export const ownOutlet = (words: string): OutletUse | undefined => byWord(words, OUTLETS())
export const ownPump = (words: string): Pump | undefined => byWord(words, PUMPS())
export const ownAnswer = (words: string): 'yes' | 'no' | undefined => byWord(words, ANSWERS())
export const isOwnUnknown = (words: string): boolean => words === plainWords(sayFor('cell')`unknown`)

const SHORTEST_MONTH = 3
/** The month, 1 to 12, that a word begins in the language of the device; 0 where it is none. */
export function ownMonth(word: string): number {
  const wanted = plainWords(word)
  if (wanted.length < SHORTEST_MONTH) return 0
  const format = new Intl.DateTimeFormat(localeNow(), { month: 'long', timeZone: 'UTC' })
  return [...Array(12).keys()].findIndex((month) => plainWords(format.format(Date.UTC(2024, month, 1))).startsWith(wanted)) + 1
}
