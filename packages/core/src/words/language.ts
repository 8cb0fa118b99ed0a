/** The words of one message, or of one message by how many, in the categories of the language: CLDR plural rules. */
export type MessageText = string | Partial<Record<Intl.LDMLPluralRule, string>>

/** A language beside English: a file of messages by id. */
export interface Catalogue {
  /** BCP 47: numbers, dates and plural forms follow it. */
  locale: string
  messages: Readonly<Record<string, MessageText>>
}

/** What is spoken: a catalogue, and whether a competent reader of the firm has signed off its cautions. */
export interface Spoken {
  catalogue: Catalogue
  cautionsSignedOff: boolean
}

/** British English: what the program is written in. */
export const ENGLISH_LOCALE = 'en-GB'

let source: () => Spoken | null = () => null

/** Says where the language of what is being said comes from: one for a device, that of each request on a server. Null is English. */
export function speakBy(spoken: () => Spoken | null): void {
  source = spoken
}

/** The language of this moment; null is English. */
export const spokenNow = (): Spoken | null => source()

export const localeNow = (): string => source()?.catalogue.locale ?? ENGLISH_LOCALE
