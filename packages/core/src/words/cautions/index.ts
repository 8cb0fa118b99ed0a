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

/** FNV-1a, 32 bits (Fowler, Noll and Vo): enough to tell one set of texts from another. */
function fingerprint(text: string): string {
  let hash = 0x811c9dc5
  for (let index = 0; index < text.length; index++) hash = Math.imul(hash ^ text.charCodeAt(index), 0x01000193)
  return (hash >>> 0).toString(16).padStart(8, '0')
}

/** What a signature is good for: it changes with any word of any caution, in English or in the other language. */
export const markOf = (catalogue: Catalogue): string => fingerprint(JSON.stringify(cautionPairs(catalogue)))
