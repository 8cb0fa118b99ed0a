import { FAMILIES } from '../train'
import { say } from '../words'
import type { ReadRow } from './rows'
import type { DraftSystem, FoundPart } from './types'

export const WHICH_POSITION = () => say`In which position is this part? Give it a number, 1 being nearest the inlet`

export const lineProblem = (row: ReadRow, message: string): void => {
  row.problems.push({ field: null, heading: null, value: '', message })
}

export const saysPart = (row: ReadRow): boolean => row.partNumber !== '' || row.medium !== null || row.fittedOn !== null

/** What a new system is made of: its family, or its parts by position. Lines that are wrong elsewhere still say what sits where. */
export function layOut(system: DraftSystem, found: ReadonlyMap<ReadRow, FoundPart>): void {
  if (system.known) return
  makeUp(system, found)
  sayMore(system)
}

/** What lines say of a bed, a chamber, a monitor, and of the system as a whole; of that the first that says it. */
function sayMore(system: DraftSystem): void {
  for (const { position, serialNo, bedL, reactor, pump, outlets, bypass, mustGoOn, monitor } of system.rows) {
    if (serialNo !== '') system.serialNo ??= serialNo
    if (pump !== null) system.pump ??= pump
    if (outlets !== null && outlets.length > 0) system.outlets ??= outlets
    if (bypass !== null) system.bypass ??= bypass
    if (mustGoOn !== null) system.mustGoOn ??= mustGoOn
    system.stages = system.stages.map((stage) => {
      if (stage.position !== position) return stage
      const isBed = bedL !== null && stage.housing === 'media-tank'
      const isLit = reactor !== '' && stage.housing === 'uv-reactor'
      return {
        ...stage,
        ...(isBed ? { bedL } : {}),
        ...(isLit ? { reactor } : {}),
        ...(monitor === null ? {} : { monitored: monitor }),
      }
    })
  }
}

function makeUp(system: DraftSystem, found: ReadonlyMap<ReadRow, FoundPart>): void {
  for (const row of system.rows) {
    if (row.family === null) continue
    if (system.family === null) {
      system.family = row.family
      system.stages = FAMILIES[row.family].stages.map((stage, index) => ({ ...stage, id: null, position: index + 1 }))
    } else if (system.family !== row.family)
      lineProblem(row, say`An earlier line calls ${system.name} something else: ${FAMILIES[system.family].name}`)
  }
  if (system.family !== null) return
  for (const row of system.rows) {
    const one = found.get(row)
    if (!saysPart(row) || !one || row.position === null || system.stages.some(({ position }) => position === row.position)) continue
    system.stages.push({ id: null, position: row.position, media: one.media, housing: one.housing })
  }
  system.stages.sort((a, b) => a.position - b.position)
  const blocking = system.rows.find((row) => saysPart(row) && (row.position === null || !found.has(row)))
  if (blocking) {
    holdBack(system, blocking)
    return
  }
  const gap = system.stages.findIndex(({ position }, index) => position !== index + 1)
  if (gap < 0) return
  for (const row of system.rows) {
    const beyond = row.position !== null && row.position > gap
    const message = say`comes without position ${gap + 1}: add its line, or a column that says what the system is`
    lineProblem(
      row,
      beyond
        ? say`Position ${row.position ?? ''} of ${system.name} ${message}`
        : say`${system.name} has no position ${gap + 1}, but one after it`,
    )
  }
  system.stages = []
}

/** A system is brought in whole or not at all: half of one could not be completed by a second list. */
function holdBack(system: DraftSystem, blocking: ReadRow): void {
  if (blocking.problems.length === 0) {
    if (blocking.position === null) lineProblem(blocking, WHICH_POSITION())
    else if (blocking.partNumber === '') lineProblem(blocking, say`Nothing says what this part is`)
    else lineProblem(blocking, say`${blocking.partNumber} is not in the catalogue: add it under Shelf, or say in a column what the part is`)
  }
  for (const row of system.rows)
    if (row !== blocking) lineProblem(row, say`Waits for line ${blocking.line}, which says what else ${system.name} is made of`)
  system.stages = []
}
