import { mediumName } from '../catalogue'
import { say } from '../words'
import { WHICH_POSITION } from './layout'
import { pushed } from './places'
import type { ReadRow, RowReading } from './rows'
import type { DraftSystem, FoundPart, Known, PlannedPart, PlannedReading } from './types'

const NO_NUMBER = () => say`no number`
const round = (value: number): number => Math.round(value * 1000) / 1000
/** One value of one day of a system: the book has it already when the keys are equal. */
export const readingKey = (on: string, name: string, value: number): string => `${on} ${name} ${round(value)}`

export type PartsByPlace = Map<string, PlannedPart[]>
/** Plans the part of a line; what is wrong with it in a sentence, null when nothing is. */
export function placePart(
  row: ReadRow,
  system: DraftSystem,
  found: FoundPart | undefined,
  planned: PartsByPlace,
  known: Known,
): string | null {
  if (row.position === null) return WHICH_POSITION()
  const stage = system.stages.find(({ position }) => position === row.position)
  if (!stage) return say`${system.name} has no position ${row.position}`
  const media = found?.media ?? stage.media
  if (media !== stage.media)
    return say`Position ${row.position} of ${system.name} is ${mediumName(stage.media)}, and this part is ${mediumName(media)}`
  const partNumber = found?.part?.partNumber ?? (row.partNumber || NO_NUMBER())
  const sameDay = (one: { partNumber: string; fittedOn: string | null }): boolean =>
    one.partNumber.toLowerCase() === partNumber.toLowerCase() && one.fittedOn === row.fittedOn
  if (system.known?.stages.find(({ position }) => position === row.position)?.parts.some(sameDay)) {
    row.notes.push(say`The part is in the book already`)
    return null
  }
  const place = `${system.key} ${row.position}`
  const twin = planned.get(place)?.find((one) => one.fittedOn === row.fittedOn)
  if (twin) return say`Line ${twin.line} already says what was fitted there${row.fittedOn === null ? '' : say` on that day`}`
  pushed(planned, place, {
    line: row.line,
    systemKey: system.key,
    position: row.position,
    partId: found?.part?.id ?? null,
    partNumber,
    rated: found?.part?.rated ?? known.ratedAs(media),
    fittedOn: row.fittedOn,
  })
  return null
}

const GAUGES = ['inKpa', 'outKpa', 'flowLMin', 'lampHours'] as const

/** Plans the reading of a line, leaving out what the book has; what is wrong with it in a sentence, null when nothing is. */
export function placeReading(row: ReadRow, system: DraftSystem, planned: PlannedReading[]): string | null {
  if (row.reading === null) return null
  const seen = system.known?.readings ?? new Set<string>()
  const fresh: RowReading = { on: row.reading.on }
  for (const [name, value] of Object.entries(row.reading)) {
    if (name === 'on') continue
    const figure = typeof value === 'number' ? value : (value as { value: number }).value
    if (seen.has(readingKey(row.reading.on, name, figure))) row.notes.push(say`A reading is in the book already`)
    else Object.assign(fresh, { [name]: value })
  }
  if (Object.keys(fresh).length === 1) return null
  const stageAt = (position: number | null) => system.stages.find((stage) => stage.position === position)
  const lamp = system.stages.find(({ media }) => media === 'uv-lamp')
  if (fresh.lampHours !== undefined && !lamp) return say`${system.name} has no lamp whose hours these could be`
  const gauged = GAUGES.some((name) => fresh[name] !== undefined)
  const stage = fresh.lampHours === undefined ? (stageAt(row.position) ?? system.stages.find(({ media }) => media === 'sediment')) : lamp
  if (gauged && !stage) return say`Whose gauges are these? Give the position of the part between them`
  planned.push({ ...fresh, line: row.line, systemKey: system.key, position: gauged ? (stage?.position ?? null) : null })
  return null
}
