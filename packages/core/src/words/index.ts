export { type Catalogue, localeNow, type MessageText, type Spoken, speakBy, spokenNow } from './language'
export { numberText, plainNumber } from './numbers'
export { caution, idOf, idOfMany, many, say } from './say'
