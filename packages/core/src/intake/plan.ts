import { usualHousing } from '../catalogue'
import { FAMILIES, type Family } from '../train'
import { say } from '../words'
import type { OutletUse } from './cells'
import { layOut, lineProblem, saysPart } from './layout'
import { type PartsByPlace, placePart, placeReading } from './place'
import { siteFinder, systemOf } from './places'
import { type ReadRow, type RowOptions, readRow } from './rows'
import type {
  DraftSystem,
  FoundPart,
  IntakePlan,
  Known,
  KnownPart,
  PlannedContract,
  PlannedReading,
  PlannedSite,
  PlannedSystem,
} from './types'

function partOf(row: ReadRow, parts: ReadonlyMap<string, KnownPart>): FoundPart | null {
  const part = row.partNumber === '' ? null : (parts.get(row.partNumber.toLowerCase()) ?? null)
  const media = part?.media ?? row.medium
  if (media === null) return null
  return { part, media, housing: part?.housing ?? usualHousing(media) }
}

/**
 * Turns the lines of a list into sites, systems, fitted parts and readings, against what the firm has already. Every problem of every
 * line is named; what a line says of a system's make-up counts even where another of its cells is wrong, so that its neighbours do not
 * fall with it. Pure: nothing is written.
 */
export function planIntake(lines: readonly (readonly string[])[], options: RowOptions, known: Known): IntakePlan {
  const rows = lines.map((cells, index) => readRow(cells, index + 2, options))
  const parts = new Map(known.parts.map((part) => [part.partNumber.toLowerCase(), part]))
  const knownSites = new Map(known.sites.map((site) => [site.id, site]))
  const finder = siteFinder(known.sites)
  const drafts = new Map<string, DraftSystem[]>()
  const siteOfRow = new Map<ReadRow, PlannedSite>()
  const systemOfRow = new Map<ReadRow, DraftSystem>()
  const found = new Map<ReadRow, FoundPart>()
  for (const row of rows) {
    if (row.problems.some(({ field }) => field === 'site')) continue
    const site = finder.find(row)
    siteOfRow.set(row, site)
    const part = partOf(row, parts)
    if (part) found.set(row, part)
    if (row.system === '' && row.family === null && !saysPart(row) && row.reading === null) continue
    const system = systemOf(row, site, site.id === null ? null : (knownSites.get(site.id) ?? null), drafts)
    system.rows.push(row)
    systemOfRow.set(row, system)
  }
  const systems = [...drafts.values()].flat()
  for (const system of systems) layOut(system, found)
  const plannedParts: PartsByPlace = new Map()
  const readings: PlannedReading[] = []
  for (const [row, system] of systemOfRow) {
    if (system.stages.length === 0) {
      if (row.problems.length === 0)
        lineProblem(row, say`Nothing says what ${system.name} is made of: its parts by position, or what the system is`)
      continue
    }
    if (row.problems.length > 0) continue
    const wrong = [saysPart(row) ? placePart(row, system, found.get(row), plannedParts, known) : null, placeReading(row, system, readings)]
    for (const message of wrong) if (message !== null) lineProblem(row, message)
  }
  return onlyGood(
    {
      rows,
      sites: finder.sites,
      systems,
      parts: [...plannedParts.values()].flat().sort((a, b) => a.line - b.line),
      readings,
      contracts: contractsOf(rows, siteOfRow, systemOfRow),
    },
    siteOfRow,
    systemOfRow,
  )
}

function contractsOf(
  rows: readonly ReadRow[],
  siteOfRow: ReadonlyMap<ReadRow, PlannedSite>,
  systemOfRow: ReadonlyMap<ReadRow, DraftSystem>,
): PlannedContract[] {
  return rows.flatMap((row) => {
    const site = siteOfRow.get(row)
    if (!site || row.contract === null) return []
    return [
      {
        line: row.line,
        siteKey: site.key,
        systemKey: systemOfRow.get(row)?.key ?? null,
        position: saysPart(row) ? row.position : null,
        ...row.contract,
      },
    ]
  })
}

/** Keeps what a line without a problem stands behind. */
function onlyGood(
  plan: Omit<IntakePlan, 'systems'> & { systems: DraftSystem[] },
  siteOfRow: ReadonlyMap<ReadRow, PlannedSite>,
  systemOfRow: ReadonlyMap<ReadRow, DraftSystem>,
): IntakePlan {
  const good = plan.rows.filter(({ problems }) => problems.length === 0)
  const lines = new Set(good.map(({ line }) => line))
  const sites = new Set(good.map((row) => siteOfRow.get(row)))
  const systems = new Set<PlannedSystem | undefined>(good.map((row) => systemOfRow.get(row)))
  return {
    rows: plan.rows,
    sites: plan.sites.filter((site) => sites.has(site)),
    systems: plan.systems.filter((system) => systems.has(system)).map(({ rows: _, known: __, ...system }) => system),
    parts: plan.parts.filter(({ line }) => lines.has(line)),
    readings: plan.readings.filter(({ line }) => lines.has(line)),
    contracts: plan.contracts.filter(({ line }) => lines.has(line)),
  }
}

const TANK_STAGES = 7
const USUAL_TANK_L = 12

/** Storage of a system nobody described: a membrane of a small set fills a tank. */
const usualTankL = (system: PlannedSystem): number | undefined => {
  if (system.family !== null) return 'tankL' in FAMILIES[system.family] ? USUAL_TANK_L : undefined
  return system.stages.length < TANK_STAGES && system.stages.some(({ media }) => media === 'membrane') ? USUAL_TANK_L : undefined
}

type Shape = Omit<Family, 'name' | 'stages'>

/** Which stages a bypass goes round; nothing where it goes round none that is there. */
function bypassOf({ bypass, stages }: PlannedSystem): readonly [number, number] | undefined {
  const last = stages.length
  if (bypass === 'all') return [1, last]
  if (bypass === undefined || bypass === 'none') return undefined
  return bypass[1] <= last ? bypass : undefined
}

/**
 * The system as a family to draw its train by: its own family's plumbing (storage, bypass, ice, what must not stop), and over it what the
 * list says; without a family a careful guess from its parts.
 */
export function shapeOfSystem(system: PlannedSystem): Family {
  const stages = system.stages.map(({ id: _, position: __, ...stage }) => stage)
  const house = stages.some(({ housing }) => housing === 'sump-large' || housing === 'media-tank' || housing === 'uv-reactor')
  const tankL = usualTankL(system)
  const guess: Shape = { outlet: house ? 'house' : 'drinking', ...(tankL === undefined ? {} : { tankL }) }
  const { name: _, stages: __, ...known }: Family = system.family === null ? { name: '', stages: [], ...guess } : FAMILIES[system.family]
  const { bypass: drawn, ice, outlet, more, mustGoOn, ...rest } = known
  const round = system.bypass === undefined ? drawn : bypassOf(system)
  const uses = system.outlets ?? [outlet, ...(ice ? (['ice'] as const) : []), ...(more ?? [])]
  const [first = 'drinking', ...others] = [...uses.filter((use) => use !== 'ice'), ...(uses.every((use) => use === 'ice') ? uses : [])]
  return {
    ...rest,
    name: system.name,
    stages,
    outlet: first,
    ...(uses.includes('ice') && first !== 'ice' ? { ice: true } : {}),
    ...(others.length > 0 ? { more: others.filter((use): use is Exclude<OutletUse, 'ice'> => use !== 'ice') } : {}),
    ...(round ? { bypass: round } : {}),
    ...((system.mustGoOn ?? mustGoOn) ? { mustGoOn: true } : {}),
    ...(system.pump ? { pump: system.pump } : {}),
  }
}
