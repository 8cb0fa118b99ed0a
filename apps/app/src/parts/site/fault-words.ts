import type { FaultDto } from '@evenround/contract/site'

export const FAULT_WORDS: Record<FaultDto['what'], string> = {
  'weeping-valve': 'Valve weeps',
  'cracked-body': 'Housing cracked',
  'missing-bypass': 'No bypass',
  'missing-shut-off': 'No shut-off',
  corroded: 'Corroded',
  other: 'Something else',
}
