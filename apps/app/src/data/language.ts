import { type Catalogue, LANGUAGES, type Language, languageOf, speakBy } from '@evenround/core/words'

/** The language of this device. It is read once, before any screen is: to change it is to open the program anew. */
const KEY = 'even-round.language'
/** Which languages' cautions the firm has signed off, as last heard: known before the server answers. */
const SIGNED_KEY = 'even-round.cautions-signed'

const known = (value: string | null): Language | undefined => LANGUAGES.find((language) => language === value)

export const deviceLanguage = (): Language => known(localStorage.getItem(KEY)) ?? languageOf(navigator.languages.join(','))

export function chooseLanguage(language: Language): void {
  localStorage.setItem(KEY, language)
  window.location.reload()
}

/** Keeps which languages' cautions stand without their English beside them. */
export const keepSigned = (languages: readonly string[]): void => localStorage.setItem(SIGNED_KEY, languages.join(','))

const isSigned = (language: Language): boolean => (localStorage.getItem(SIGNED_KEY) ?? '').split(',').includes(language)

const CATALOGUES: Record<Exclude<Language, 'en'>, () => Promise<Catalogue>> = {
  de: async () => (await import('@evenround/core/words/de')).GERMAN,
}

/** Has everything said in the device's language from here on. What cannot be brought, offline on a new device, is said in English. */
export async function startLanguage(): Promise<void> {
  const language = deviceLanguage()
  document.documentElement.lang = language
  if (language === 'en') return
  try {
    const catalogue = await CATALOGUES[language]()
    speakBy(() => ({ catalogue, cautionsSignedOff: isSigned(language) }))
  } catch {
    document.documentElement.lang = 'en'
  }
}
