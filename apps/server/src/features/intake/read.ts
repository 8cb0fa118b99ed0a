import { MOST_INTAKE_LINES } from '@evenround/contract/intake'
import { LIST_FORMAT, listBody } from '@evenround/contract/lists'
import { ratedAs } from '@evenround/core/catalogue'
import {
  type DateOrder,
  dateOrderOf,
  INTAKE_FIELDS,
  type IntakeField,
  type IntakePlan,
  type Known,
  type KnownSite,
  matchColumns,
  plainWords,
  planIntake,
  readingKey,
} from '@evenround/core/intake'
import { say } from '@evenround/core/words'
import Papa from 'papaparse'
import { In, IsNull } from 'typeorm'
import { type Firm, Part, Site, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { badInput } from '../../http/errors'
import { dayIn } from '../../time/zone'
import { ratedOf } from '../records/map'
import { kindsOf } from '../wear/kinds'
import { profilesOf } from '../wear/profiles'
import { fittedRows, grouped, readingRows, stageRows } from '../wear/rows'

export interface Sheet {
  headings: string[]
  lines: string[][]
  /** Lists parted by semicolons come from where the comma is the decimal mark. */
  decimal: '.' | ','
}

/** Reads a list as text: the heading line, and every line that is not blank at its own number. */
export function readSheet(text: string): Sheet {
  const { data, meta, errors } = Papa.parse<string[]>(listBody(text), LIST_FORMAT)
  const quote = errors.find(({ type }) => type === 'Quotes')
  if (quote) throw badInput([{ path: 'text', message: say`line ${(quote.row ?? 0) + 1}: a quotation mark is opened and never closed` }])
  const [headings, ...lines] = data
  while (lines.at(-1)?.every((cell) => cell.trim() === '')) lines.pop()
  if (!headings || headings.every((cell) => cell.trim() === '') || lines.length === 0)
    throw badInput([{ path: 'text', message: say`expected a line of headings and at least one line under it` }])
  if (lines.length > MOST_INTAKE_LINES)
    throw badInput([{ path: 'text', message: say`expected at most ${MOST_INTAKE_LINES} lines, got ${lines.length}: bring it in by parts` }])
  return { headings: headings.map((heading) => heading.trim()), lines, decimal: meta.delimiter === ';' ? ',' : '.' }
}

interface TdsValue {
  system_id: string
  at: Date
  water: 'untreated' | 'treated'
  display: number
}

/** Readings a list may bring. */
const LISTED = ['counterL', 'inKpa', 'outKpa', 'flowLMin', 'lampHours'] as const

/**
 * What the firm has already that a list could meet again. Sites are met by their names: of those that none of its cells names nothing more
 * is read, or a list of forty lines would read all that a large firm ever measured.
 */
async function knownOf(scope: FirmScope, firm: FirmOfList, lines: Sheet['lines']): Promise<Known> {
  const day = (instant: Date): string => dayIn(firm.timeZone, instant)
  const sites = await scope.find(Site, { goneAt: IsNull() })
  const cells = new Set(lines.flatMap((line) => line.map(plainWords)))
  const named = sites.filter(({ name }) => cells.has(plainWords(name))).map(({ id }) => id)
  const systems = await scope.find(System, { goneAt: IsNull(), siteId: In(named) })
  const ids = systems.map(({ id }) => id)
  const stages = await stageRows(scope, ids)
  const fitted = grouped(
    await fittedRows(
      scope,
      stages.map(({ stageId }) => stageId),
    ),
    ({ stageId }) => stageId,
  )
  const readings = grouped(await readingRows(scope, ids), ({ systemId }) => systemId)
  const values = grouped(
    await scope.query<TdsValue>(
      'select system_id, at, water, display from fact_tds_reading where firm_id = $1 and system_id = any($2) and not voided',
      [ids],
    ),
    ({ system_id }) => system_id,
  )
  const keysOf = (systemId: string): Set<string> => {
    const keys = new Set((values.get(systemId) ?? []).map(({ at, water, display }) => readingKey(day(at), water, display)))
    for (const row of readings.get(systemId) ?? []) {
      for (const name of LISTED) {
        const value = row[name]
        if (value !== null) keys.add(readingKey(day(row.at), name, value))
      }
    }
    return keys
  }
  const ofSystem = grouped(stages, ({ systemId }) => systemId)
  const systemsOfSite = grouped(systems, ({ siteId }) => siteId)
  const knownSite = ({ id, name, village }: Site): KnownSite => ({
    id,
    name,
    village,
    systems: (systemsOfSite.get(id) ?? []).map((system) => ({
      id: system.id,
      name: system.name,
      readings: keysOf(system.id),
      stages: (ofSystem.get(system.id) ?? []).flatMap(({ stageId, train }) => {
        const node = train.nodes.find((one) => one.id === stageId)
        if (node?.kind !== 'stage') return []
        const parts = (fitted.get(stageId) ?? []).map(({ partNumber, at, dateKnown }) => ({
          partNumber,
          fittedOn: dateKnown ? day(at) : null,
        }))
        return [{ id: stageId, position: node.position, media: node.media, parts }]
      }),
    })),
  })
  const profiles = await profilesOf(scope)
  const parts = (await scope.find(Part)).map((part) => ({
    id: part.id,
    partNumber: part.partNumber,
    media: part.media,
    housing: part.housing,
    rated: ratedOf(part),
  }))
  return { sites: sites.map(knownSite), parts, ratedAs: (media) => ratedAs(profiles.of(media)) }
}

type FirmOfList = Pick<Firm, 'timeZone' | 'gallon'>

interface Asked {
  sheet: Sheet
  columns: readonly (IntakeField | null)[] | undefined
  order: DateOrder | undefined
}

interface Planned {
  plan: IntakePlan
  columns: readonly (IntakeField | null)[]
  order: DateOrder
  orderTold: boolean
  /** The list whose columns these are; null where they were given or guessed. */
  remembered: string | null
}

/** So many lists back somebody's own spreadsheet is looked for. */
const LISTS_BACK = 30

/** What was said of columns with the very same headings the last time such a list was brought in. */
async function rememberedFor(
  scope: FirmScope,
  headings: readonly string[],
): Promise<{ name: string; columns: (IntakeField | null)[]; order: DateOrder } | null> {
  const lists = await scope.query<{ name: string; columns: string[]; date_order: DateOrder; top: string }>(
    `select name, columns, date_order, left(source, 8000) as top from intake where firm_id = $1 order by at desc limit $2`,
    [LISTS_BACK],
  )
  const wanted = JSON.stringify(headings)
  for (const { name, columns, date_order, top } of lists) {
    const [first] = Papa.parse<string[]>(listBody(top), { ...LIST_FORMAT, preview: 1 }).data
    if (JSON.stringify(first?.map((heading) => heading.trim())) !== wanted) continue
    const known = columns.map((field) => INTAKE_FIELDS.find((one) => one === field) ?? null)
    return { name, columns: known, order: date_order }
  }
  return null
}

/** The plan of a list as the firm stands now, with what had to be guessed. */
export async function planOf(
  scope: FirmScope,
  firm: FirmOfList,
  now: Date,
  { sheet, columns: given, order: wanted }: Asked,
): Promise<Planned> {
  const { headings, lines, decimal } = sheet
  const remembered = given === undefined ? await rememberedFor(scope, headings) : null
  const chosen = given ?? remembered?.columns
  const columns = headings.map((_, index) => (chosen === undefined ? null : (chosen[index] ?? null)))
  if (chosen === undefined) for (const [index, field] of matchColumns(headings).entries()) columns[index] = field
  const twice = columns.find((field, index) => field !== null && columns.indexOf(field) !== index)
  if (twice) throw badInput([{ path: 'columns', message: say`expected each field once: two columns hold ${twice}` }])
  const dated = columns.flatMap((field, index) => (field === 'fittedOn' || field === 'readOn' ? [index] : []))
  const told = dateOrderOf(lines.flatMap((cells) => dated.map((index) => cells[index] ?? '')))
  const order = wanted ?? (told.told ? told.order : (remembered?.order ?? told.order))
  const own = (await kindsOf(scope)).map(({ id }) => id)
  const options = { headings, columns, order, gallon: firm.gallon, decimal, today: dayIn(firm.timeZone, now), own }
  // A blank line in the middle keeps its number, so that numbers are those of the file.
  const plan = planIntake(lines, options, await knownOf(scope, firm, lines))
  const blank = (line: number): boolean => lines[line - 2]?.every((cell) => cell.trim() === '') === true
  return {
    plan: { ...plan, rows: plan.rows.filter(({ line }) => !blank(line)) },
    columns,
    order,
    orderTold: told.told,
    remembered: remembered?.name ?? null,
  }
}

/** What a plan would add. */
export function countsOf({ sites, systems, parts, readings }: IntakePlan) {
  return {
    sites: sites.filter(({ id }) => id === null).length,
    systems: systems.filter(({ id }) => id === null).length,
    parts: parts.length,
    undated: parts.filter(({ fittedOn }) => fittedOn === null).length,
    readings: readings.length,
  }
}
