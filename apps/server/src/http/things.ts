import { say } from '@evenround/core/words'

/** What a refusal speaks of, as people call it. */
const THINGS: Record<string, () => string> = {
  calendar: () => say`calendar`,
  crossing: () => say`crossing`,
  'road-server': () => say`routing server`,
  'day off': () => say`day off`,
  device: () => say`device`,
  disinfection: () => say`disinfection`,
  file: () => say`file`,
  firm: () => say`firm`,
  kind: () => say`kind`,
  list: () => say`list`,
  mark: () => say`mark`,
  part: () => say`part`,
  passkey: () => say`passkey`,
  person: () => say`person`,
  photo: () => say`photo`,
  'plan of this run': () => say`plan of this run`,
  product: () => say`product`,
  publication: () => say`publication`,
  run: () => say`run`,
  'sign-in': () => say`sign-in`,
  site: () => say`site`,
  stage: () => say`stage`,
  stop: () => say`stop`,
  system: () => say`system`,
}

/** The name of a thing; one that is not listed is called what the program calls it. */
export const thingWord = (thing: string): string => THINGS[thing]?.() ?? thing
