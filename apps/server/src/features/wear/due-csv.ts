import type { DueQuery, DueRow } from '@evenround/contract/due'
import { csvText } from '../../csv'
import type { FirmScope } from '../../db/scope'
import { duePage } from './due'

const PAGE = 1000

/** Column names stand for themselves in a spreadsheet; days are ISO, shares are per cent. */
const lineOf = (row: DueRow): Record<string, string | number> => ({
  site: row.siteName,
  system: row.systemName,
  village: row.village,
  island: row.island,
  medium: row.media,
  part_number: row.partNumber,
  fitted_on: row.fittedOn,
  fitting_date_known: row.dateKnown ? 'yes' : 'no',
  state: row.due.state,
  due_on: row.due.due,
  window_from: row.due.windowFrom,
  window_to: row.due.windowTo,
  rule: row.due.rule.by,
  contract_months: row.due.rule.months ?? '',
  reason: row.due.why,
  label_day: row.due.labelDay ?? '',
  end_p10: row.p10,
  end_p50: row.p50,
  end_p90: row.p90,
  governing_cause: row.governing,
  school: row.school,
  chance_over_percent: Math.round(1000 * row.due.ended) / 10,
  site_id: row.siteId,
  stage_id: row.stageId,
})

/** The whole filtered list as CSV (RFC 4180), page by page, all of one moment. A cell that a spreadsheet would run as a formula is quoted. */
export async function dueCsv(scope: FirmScope, query: DueQuery, today: string): Promise<string> {
  const lines: ReturnType<typeof lineOf>[] = []
  let after: string | null = null
  do {
    const page = await duePage(scope, { ...query, limit: PAGE, ...(after === null ? {} : { after }) }, today)
    lines.push(...page.rows.map(lineOf))
    after = page.next
  } while (after !== null)
  const fields = lines[0] ? Object.keys(lines[0]) : []
  return csvText(
    fields,
    lines.map((line) => Object.values(line)),
  )
}
