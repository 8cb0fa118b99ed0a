import { type Catalogue, LANGUAGES, type Language, languageOf, speakBy } from '@evenround/core/words'
import { keepText } from './room'

/** The language of this device. It is read once, before any screen is: to change it is to open the program anew. */
const KEY = 'even-round.language'
/** Which wording of the cautions the firm has signed off in the device's language, as last heard: known before the server answers. */
const SIGNED_KEY = 'even-round.cautions-signed'

type Translated = Exclude<Language, 'en'>

const known = (value: string | null): Language | undefined => LANGUAGES.find((language) => language === value)

export const deviceLanguage = (): Language => known(localStorage.getItem(KEY)) ?? languageOf(navigator.languages.join(','))

export function chooseLanguage(language: Language): void {
  keepText(KEY, language)
  window.location.reload()
}

const CATALOGUES: Record<Translated, () => Promise<Catalogue>> = {
  de: async () => (await import('@evenround/core/words/de')).GERMAN,
}

/** A language beside English; its file is brought when it is asked for. */
export const catalogueOf = (language: Translated): Promise<Catalogue> => CATALOGUES[language]()

let signed = localStorage.getItem(SIGNED_KEY) ?? ''

/** Keeps which wording of the cautions stands without its English on this device. */
export function keepSigned(marks: Readonly<Record<string, { mark: string }>>): void {
  signed = marks[deviceLanguage()]?.mark ?? ''
  keepText(SIGNED_KEY, signed)
}

/** Has everything said in the device's language from here on; null where that is English, which is there. */
export function startLanguage(): Promise<void> | null {
  const language = deviceLanguage()
  return language === 'en' ? null : speak(language)
}

/** What cannot be brought, offline on a new device, is said in English. */
async function speak(language: Translated): Promise<void> {
  try {
    const catalogue = await catalogueOf(language)
    document.documentElement.lang = language
    speakBy(() => ({ catalogue, cautionsSignedOff: signed === catalogue.cautionsMark }))
  } catch {
    // The page says which language it is in: English, as it was served.
  }
}
