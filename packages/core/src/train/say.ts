import { say } from '../words'
/** Figures in a step's words, in SI, so that a screen can say them in the firm's units. */
export interface MessageValues {
  litres?: number
  kg?: number
}

/** What a step says before its figures are put in: `{litres}` and `{kg}` stand for them. The template is its own id. */
export interface MessageTemplate {
  text: string
  why: string
  values: MessageValues
}

const SI: Record<keyof MessageValues, (value: number) => string> = {
  litres: (value) => say`${value} L`,
  kg: (value) => say`${value} kg`,
}

/** Puts figures into a template; `write` says each in the units wanted, SI where it is left out. */
export function fillTemplate(template: string, values: MessageValues, write: Partial<typeof SI> = {}): string {
  return template.replace(/\{(litres|kg)\}/g, (whole, name: keyof MessageValues) => {
    const value = values[name]
    return value === undefined ? whole : (write[name] ?? SI[name])(value)
  })
}
