export {
  type Catalogue,
  inEnglish,
  LANGUAGES,
  type Language,
  languageOf,
  localeNow,
  type MessageText,
  midSentence,
  type Spoken,
  speakBy,
  spokenNow,
} from './language'
export { decimalText, numberText, plainNumber } from './numbers'
export { caution, idOf, idOfMany, many, retell, say, sayFor } from './say'
