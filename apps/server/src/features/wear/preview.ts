import type { RulePreview } from '@evenround/contract/wear'
import type { RuleLevel } from '@evenround/core/firm'
import { daysBetween, median } from '@evenround/core/units'
import { dueOf, type KeptRule, ruleOf, USUAL_RULE } from '@evenround/core/wear'
import { Firm } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { dayIn } from '../../time/zone'
import { knownOfSystems } from './inputs'
import { chosenFor, FIRM } from './rules'

/** So many due days are looked at. */
const NEXT = 100

/** Stages whose rule comes from this level or a wider one: a nearer choice stays as it is. */
const FOLLOWS: Record<RuleLevel, string> = {
  firm: 'true',
  medium: 'f.media = $2',
  site: 'f.site_id::text = $2',
  system: 'f.system_id::text = $2',
  stage: 'f.stage_id::text = $2',
}

const LEVELS: readonly RuleLevel[] = ['firm', 'medium', 'site', 'system', 'stage']

/** What a choice would do to the next hundred due days it is about, before it is made. Null for `rule` is as the next wider level has it. */
export async function previewRule(
  scope: FirmScope,
  { level, about, rule }: { level: RuleLevel; about: string; rule: KeptRule | null },
  now: Date,
): Promise<RulePreview> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) return { looked: 0, earlier: 0, later: 0, medianShiftDays: 0 }
  const rows = await scope.query<{ stage_id: string; system_id: string }>(
    `select f.stage_id, f.system_id from stage_forecast f where f.firm_id = $1 and $2::text is not null and ${FOLLOWS[level]}
     order by f.due_on, f.stage_id limit ${NEXT}`,
    [level === 'firm' ? FIRM : about],
  )
  const known = await knownOfSystems(scope, [...new Set(rows.map(({ system_id }) => system_id))], {
    firm,
    today: dayIn(firm.timeZone, now),
  })
  const chosen = await chosenFor(scope, [])
  const shifts: number[] = []
  for (const { stage_id } of rows) {
    const stage = known.get(stage_id)
    if (!stage?.input || LEVELS.indexOf(stage.rule.from) > LEVELS.indexOf(level)) continue
    const wider = level === 'firm' ? { ...USUAL_RULE } : chosen.ruleAt({ stageId: '', systemId: '', siteId: '' }, stage.node.media)
    const before = dueOf(stage.input, ruleOf(stage.rule))
    const after = dueOf(stage.input, ruleOf(rule ?? wider))
    if (before && after) shifts.push(daysBetween(before.due, after.due))
  }
  return {
    looked: shifts.length,
    earlier: shifts.filter((days) => days < 0).length,
    later: shifts.filter((days) => days > 0).length,
    medianShiftDays: shifts.length === 0 ? 0 : median(shifts),
  }
}
