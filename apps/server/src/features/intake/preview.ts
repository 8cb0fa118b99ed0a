import { type IntakeAsk, type IntakePreview, MOST_INTAKE_LINES } from '@evenround/contract/intake'
import { mediumName } from '@evenround/core/catalogue'
import type { IntakePlan } from '@evenround/core/intake'
import { say } from '@evenround/core/words'
import { Firm } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { notFound } from '../../http/errors'
import { countsOf, planOf, readSheet } from './read'

/** Problems go out whole, so that the file of lines to mend holds them all. */
const MOST_SHOWN = MOST_INTAKE_LINES
const MOST_NOTES = 300
const SYSTEMS_SHOWN = 12
const SAMPLES = 3

/** The first few different cells of a column. */
function samplesOf(lines: readonly (readonly string[])[], column: number): string[] {
  const seen = new Set<string>()
  for (const cells of lines) {
    const cell = (cells[column] ?? '').trim()
    if (cell !== '') seen.add(cell)
    if (seen.size === SAMPLES) break
  }
  return [...seen]
}

/** Systems as they will stand, with what sits where. */
function systemsShown(plan: IntakePlan) {
  const sites = new Map(plan.sites.map((site) => [site.key, site.name]))
  return plan.systems.slice(0, SYSTEMS_SHOWN).map(({ key, siteKey, id, name, stages }) => ({
    site: sites.get(siteKey) ?? '',
    system: name,
    isNew: id === null,
    stages: stages.map(({ position, media }) => {
      const part = plan.parts.filter((one) => one.systemKey === key && one.position === position).at(-1)
      return `${position} ${mediumName(media)}${part ? `: ${part.partNumber}, ${part.fittedOn ?? say`day not known`}` : ''}`
    }),
  }))
}

/** A list as it would come in, and what is wrong with it. */
export async function previewOf(scope: FirmScope, { text, columns, order }: IntakeAsk, now: Date): Promise<IntakePreview> {
  const sheet = readSheet(text)
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw notFound('firm')
  const read = await planOf(scope, firm, now, { sheet, columns, order })
  const { plan } = read
  const bad = plan.rows.filter(({ problems }) => problems.length > 0)
  const noted = plan.rows.filter(({ problems, notes }) => problems.length === 0 && notes.length > 0)
  return {
    columns: sheet.headings.map((heading, index) => ({
      heading,
      field: read.columns[index] ?? null,
      samples: samplesOf(sheet.lines, index),
    })),
    order: read.order,
    orderTold: read.orderTold,
    remembered: read.remembered,
    lines: plan.rows.length,
    good: plan.rows.length - bad.length,
    counts: countsOf(plan),
    problems: bad.slice(0, MOST_SHOWN).map(({ line, problems }) => ({ line, problems })),
    bad: bad.length,
    notes: noted.slice(0, MOST_NOTES).map(({ line, notes }) => ({ line, notes })),
    noted: noted.length,
    systems: systemsShown(plan),
  }
}
