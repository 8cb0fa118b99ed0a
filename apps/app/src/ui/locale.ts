import { spokenNow } from '@evenround/core/words'

/** The decimal mark of the language spoken, in English that of the device; the other of the two then groups thousands. */
export function localDecimal(): '.' | ',' {
  return (1.5).toLocaleString(spokenNow()?.catalogue.locale ?? navigator.language).includes(',') ? ',' : '.'
}
