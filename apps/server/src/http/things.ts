import { say } from '@evenround/core/words'

/** What a refusal speaks of, as people call it. */
const THINGS = {
  calendar: () => say`calendar`,
  crossing: () => say`crossing`,
  'road-server': () => say`routing server`,
  'day off': () => say`day off`,
  device: () => say`device`,
  disinfection: () => say`disinfection`,
  file: () => say`file`,
  firm: () => say`firm`,
  function: () => say`function`,
  kind: () => say`kind`,
  list: () => say`list`,
  mark: () => say`mark`,
  part: () => say`part`,
  passkey: () => say`passkey`,
  person: () => say`person`,
  photo: () => say`photo`,
  'plan of the year': () => say`plan of the year`,
  'plan of this run': () => say`plan of this run`,
  product: () => say`product`,
  publication: () => say`publication`,
  run: () => say`run`,
  set: () => say`plan that is being made`,
  'sign-in': () => say`sign-in`,
  site: () => say`site`,
  stage: () => say`stage`,
  stop: () => say`stop`,
  system: () => say`system`,
} as const satisfies Record<string, () => string>

export type Thing = keyof typeof THINGS
/** The name of a thing. */
export const thingWord = (thing: Thing): string => THINGS[thing]()
