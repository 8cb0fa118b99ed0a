import type { FaultDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'

export const FAULT_WORDS: Record<FaultDto['what'], string> = {
  'weeping-valve': say`Valve weeps`,
  'cracked-body': say`Housing cracked`,
  'missing-bypass': say`No bypass`,
  'missing-shut-off': say`No shut-off`,
  corroded: say`Corroded`,
  other: say`Something else`,
}
