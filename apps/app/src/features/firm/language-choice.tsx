import { LANGUAGES, type Language, say } from '@evenround/core/words'
import { chooseLanguage, deviceLanguage } from '../../data/language'
import { Choice } from '../../ui/choice'

/** Each language in its own words: who cannot read the one that stands finds theirs. */
const NAMES: Record<Language, string> = { en: 'English', de: 'Deutsch' }
const OPTIONS = LANGUAGES.map((value) => ({ value, label: NAMES[value] }))

export function LanguageChoice() {
  return <Choice label={say`Language of this device`} value={deviceLanguage()} options={OPTIONS} onChange={chooseLanguage} />
}
