import type { Catalogue } from '../language'
import ids from './ids.json'

/** A caution or hold as it is written in English, and in another language. */
export interface CautionPair {
  english: string
  own: string
}

/** Every caution and hold the program says, in the order of their English. */
export const cautionPairs = ({ messages }: Catalogue): CautionPair[] =>
  ids.map((id) => {
    const own = messages[id]
    return { english: id, own: typeof own === 'string' ? own : id }
  })
