/** The words of one message, or of one message by how many, in the categories of the language: CLDR plural rules. */
export type MessageText = string | Partial<Record<Intl.LDMLPluralRule, string>>

/** A language beside English: a file of messages by id. */
export interface Catalogue {
  /** BCP 47: numbers, dates and plural forms follow it. */
  locale: string
  /** What it calls itself. */
  name: string
  /** Nouns keep their capital inside a sentence. */
  capitalNouns: boolean
  /** Which wording of the cautions this is: a signature is good for one. `core/words/cautions` says how it is made. */
  cautionsMark: string
  messages: Readonly<Record<string, MessageText>>
}

/** What is spoken: a catalogue, and whether a competent reader of the firm has signed off its cautions. */
export interface Spoken {
  catalogue: Catalogue
  cautionsSignedOff: boolean
}

/** The languages the program speaks; English is what it is written in. */
export const LANGUAGES = ['en', 'de'] as const
export type Language = (typeof LANGUAGES)[number]

/** The language of a BCP 47 tag or of the first that fits in an Accept-Language header; English where none does. */
export function languageOf(wanted: string): Language {
  const asked = wanted.split(',').map((tag) => tag.trim().toLowerCase().slice(0, 2))
  return LANGUAGES.find((language) => language === asked.find((tag) => LANGUAGES.some((known) => known === tag))) ?? 'en'
}

/** British English. */
const ENGLISH_LOCALE = 'en-GB'

let source: () => Spoken | null = () => null

/** Says where the language of what is being said comes from: one for a device, that of each request on a server. Null is English. */
export function speakBy(spoken: () => Spoken | null): void {
  source = spoken
}

/** The language of this moment; null is English. */
export const spokenNow = (): Spoken | null => source()

/** Has something said in English whatever the language of this moment: what lists and files are matched by. */
export function inEnglish<T>(said: () => T): T {
  const before = source
  source = () => null
  try {
    return said()
  } finally {
    source = before
  }
}

export const localeNow = (): string => source()?.catalogue.locale ?? ENGLISH_LOCALE

/** A name inside a sentence: small letters where the language's nouns have none. */
export const midSentence = (name: string): string => (source()?.catalogue.capitalNouns ? name : name.toLowerCase())
