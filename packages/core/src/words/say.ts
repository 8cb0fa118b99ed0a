import { type Catalogue, type MessageText, type Spoken, spokenNow } from './language'
import { numberText, plainNumber } from './numbers'

/** What stands in a message's places. */
export type Place = string | number

const ids = new WeakMap<TemplateStringsArray, string>()

/** The id of a message is its English text, its places numbered: "Open {0} again, one hand below". */
export function idOf(parts: TemplateStringsArray): string {
  const known = ids.get(parts)
  if (known !== undefined) return known
  const id = parts.reduce((text, part, index) => (index === 0 ? part : `${text}{${index - 1}}${part}`), '')
  ids.set(parts, id)
  return id
}

/** The id of a message that means something else in another place: "Open {0} @hours". */
export const idFor = (meaning: string, parts: TemplateStringsArray): string => `${idOf(parts)} @${meaning}`

/** The id of a message that is said of a number. */
export const idOfMany = (one: string, other: string): string => `# ${one}|# ${other}`

const found = ({ messages }: Catalogue, id: string): MessageText | undefined => (Object.hasOwn(messages, id) ? messages[id] : undefined)

const filled = (text: string, places: readonly Place[]): string =>
  text.replace(/\{(\d+)\}/g, (whole, index: string) => {
    const place = places[Number(index)]
    return place === undefined ? whole : placed(place)
  })

const placed = (place: Place): string => (typeof place === 'number' ? plainNumber(place) : place)

const english = (parts: TemplateStringsArray, places: readonly Place[]): string =>
  parts.reduce((text, part, index) => (index === 0 ? part : `${text}${places[index - 1]}${part}`), '')

function inLanguage({ catalogue }: Spoken, parts: TemplateStringsArray, places: readonly Place[], id = idOf(parts)): string {
  const text = found(catalogue, id)
  return typeof text === 'string' ? filled(text, places) : english(parts, places)
}

/**
 * A message in the language of this moment. What stands between the backticks is its English and its id; a catalogue has it by that id.
 * A message that a catalogue does not have is said in English.
 */
export function say(parts: TemplateStringsArray, ...places: Place[]): string {
  const spoken = spokenNow()
  return spoken === null ? english(parts, places) : inLanguage(spoken, parts, places)
}

/** Like `say`, for English words that mean two things: the meaning is part of the id, and not said. */
export const sayFor =
  (meaning: string) =>
  (parts: TemplateStringsArray, ...places: Place[]): string => {
    const spoken = spokenNow()
    return spoken === null ? english(parts, places) : inLanguage(spoken, parts, places, idFor(meaning, parts))
  }

/** Like `say`, for what can hurt somebody: its English stands beside it until a competent reader has signed the language off. */
export function caution(parts: TemplateStringsArray, ...places: Place[]): string {
  const spoken = spokenNow()
  if (spoken === null) return english(parts, places)
  const own = inLanguage(spoken, parts, places)
  const original = english(parts, places)
  return spoken.cautionsSignedOff || own === original ? own : `${own} [EN: ${original}]`
}

/** Made once for each language, as the formatters of figures are: lists say many things by how many. */
const pluralRules = new Map<string, Intl.PluralRules>()

function pluralForm(locale: string, count: number): Intl.LDMLPluralRule {
  const rules = pluralRules.get(locale) ?? new Intl.PluralRules(locale)
  pluralRules.set(locale, rules)
  return rules.select(count)
}

/** "1 part", "1,204 parts": a number with its noun. `#` is the number in a catalogue; its plural forms are those of the language. */
export function many(count: number, one: string, other: string): string {
  const spoken = spokenNow()
  const text = spoken === null ? undefined : found(spoken.catalogue, idOfMany(one, other))
  if (spoken === null || text === undefined || typeof text === 'string') return `${numberText(count)} ${count === 1 ? one : other}`
  const form = pluralForm(spoken.catalogue.locale, count)
  return (text[form] ?? text.other ?? '').replaceAll('#', numberText(count))
}

/**
 * What was written down in English, said in the language of this moment: a message without places, or one of those given, whose places
 * hold what the text has there. Anything else stays as it is.
 */
export function retell(english: string, withPlaces: readonly string[] = []): string {
  const spoken = spokenNow()
  if (spoken === null) return english
  const own = found(spoken.catalogue, english)
  if (typeof own === 'string') return own
  for (const id of withPlaces) {
    const escaped = id.replace(/[.*+?^$()|[\]\\]/g, '\\$&').replace(/\{\d+\}/g, '(.*)')
    const matched = new RegExp(`^${escaped}$`).exec(english)
    const text = matched && found(spoken.catalogue, id)
    if (typeof text === 'string') return filled(text, matched?.slice(1) ?? [])
  }
  return english
}
