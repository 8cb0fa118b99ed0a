/** Which units go together where; each can be chosen by itself later. */
export const UNIT_SETS = {
  metric: { gallon: 'us', units: { volume: 'L', pressure: 'bar', temperature: 'C' } },
  us: { gallon: 'us', units: { volume: 'gal', pressure: 'psi', temperature: 'F' } },
  imperial: { gallon: 'imperial', units: { volume: 'gal', pressure: 'psi', temperature: 'C' } },
} as const
export type UnitSet = keyof typeof UNIT_SETS
