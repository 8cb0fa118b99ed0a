import type { KindDto } from '@evenround/contract/kinds'
import { MEDIA, MEDIA_PROFILES, type Medium } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'

interface MediumGroup {
  label: string
  options: readonly { value: Medium; label: string }[]
}

/** Every kind of part to choose from, the firm's own apart from ours. */
export const mediumGroups = (kinds: readonly KindDto[]): MediumGroup[] => [
  { label: say`Kind of part`, options: MEDIA.map((value) => ({ value, label: MEDIA_PROFILES[value].name })) },
  ...(kinds.length > 0 ? [{ label: say`Your own kinds`, options: kinds.map(({ id, name }) => ({ value: id, label: name })) }] : []),
]
