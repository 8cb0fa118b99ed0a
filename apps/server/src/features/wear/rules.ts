import type { DueRulesDto, RuleInForce } from '@evenround/contract/wear'
import { MEDIA, type Medium } from '@evenround/core/catalogue'
import { DUE_RULE_FIELDS, type RuleLevel, USE_FIELDS, type USE_LEVELS } from '@evenround/core/firm'
import { type KeptRule, type StatedUse, USUAL_RULE, type Use } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { recordOf } from '../../db/columns'
import { Site, Stage, System } from '../../db/entities/master'
import { DueRuleRow, StatedUseRow } from '../../db/entities/wear'
import type { FirmScope } from '../../db/scope'
import { badInput, notFound } from '../../http/errors'
import { kindsOf } from './kinds'
import { markFirm, markMedium, markSite, markSystems } from './stale'

/** A stage with all it belongs to. */
export interface StagePlace {
  stageId: string
  systemId: string
  siteId: string
}
export const FIRM = 'firm'

/** What was chosen for these places and the wider ones, by level and what it is about. */
export class Chosen {
  private readonly rules: ReadonlyMap<string, KeptRule>
  private readonly uses: ReadonlyMap<string, Use>

  constructor(rules: readonly DueRuleRow[], uses: readonly StatedUseRow[]) {
    this.rules = new Map(rules.map((row) => [`${row.level} ${row.about}`, recordOf(DUE_RULE_FIELDS, row)]))
    this.uses = new Map(uses.map((row) => [`${row.level} ${row.about}`, recordOf(USE_FIELDS, row)]))
  }

  /** The rule in force at a stage: the nearest one that was chosen. */
  ruleAt(place: StagePlace, media: Medium): RuleInForce {
    for (const [level, about] of levels(place, media)) {
      const rule = this.rules.get(`${level} ${about}`)
      if (rule) return { ...rule, from: level }
    }
    return { ...USUAL_RULE, from: 'firm' }
  }

  /** Levels nearer than the firm at which a rule was chosen for a stage. */
  ruledAt(place: StagePlace, media: Medium): RuleLevel[] {
    return levels(place, media).flatMap(([level, about]) => (level !== 'firm' && this.rules.has(`${level} ${about}`) ? [level] : []))
  }

  /** What was said of the use at a stage, its system and its site. */
  useAt({ stageId, systemId, siteId }: StagePlace): StatedUse {
    const of = (level: (typeof USE_LEVELS)[number], about: string): Use | null => this.uses.get(`${level} ${about}`) ?? null
    return { stage: of('stage', stageId), system: of('system', systemId), site: of('site', siteId) }
  }
}

/** The nearest first. */
const levels = ({ stageId, systemId, siteId }: StagePlace, media: Medium): [RuleLevel, string][] => [
  ['stage', stageId],
  ['system', systemId],
  ['site', siteId],
  ['medium', media],
  ['firm', FIRM],
]

/** Everything that was chosen for these places, in two queries. */
export async function chosenFor(scope: FirmScope, places: readonly StagePlace[]): Promise<Chosen> {
  const ids = [...new Set(places.flatMap(({ stageId, systemId, siteId }) => [stageId, systemId, siteId]))]
  const [rules, uses] = await Promise.all([
    scope.query<DueRuleRow>(
      `select level, about, by, months, anchor, care, beyond_label as "beyondLabel" from due_rule
       where firm_id = $1 and (level in ('firm', 'medium') or about = any($2))`,
      [ids],
    ),
    scope.query<StatedUseRow>('select level, about, by, amount, fill_l as "fillL" from stated_use where firm_id = $1 and about = any($2)', [
      ids,
    ]),
  ])
  return new Chosen(rules, uses)
}

/** Marks what a choice is about for new forecasts; refuses what is no thing of this firm. */
async function markAbout(scope: FirmScope, level: RuleLevel, about: string, now: Date): Promise<void> {
  if (level === 'firm') {
    if (about !== FIRM) throw badInput([{ path: 'about', message: 'expected "firm"' }])
    await markFirm(scope, now)
  } else if (level === 'medium') {
    const media = [...MEDIA, ...(await kindsOf(scope)).map(({ id }) => id)].find((one) => one === about)
    if (media === undefined) throw badInput([{ path: 'about', message: say`expected a medium` }])
    await markMedium(scope, now, media)
  } else {
    await markPlace(scope, level, about, now)
  }
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/

async function markPlace(scope: FirmScope, level: (typeof USE_LEVELS)[number], about: string, now: Date): Promise<void> {
  if (!UUID.test(about)) throw badInput([{ path: 'about', message: say`expected the id of a ${level}` }])
  if (level === 'site') {
    if (!(await scope.findOne(Site, { id: about }))) throw notFound('site')
    await markSite(scope, now, about)
    return
  }
  const systemId = level === 'system' ? about : (await scope.findOne(Stage, { id: about }))?.systemId
  const system = systemId === undefined ? null : await scope.findOne(System, { id: systemId })
  if (!system) throw notFound(level)
  await markSystems(scope, now, [system.id])
}

/** Chooses a rule for a level, or takes it back. */
export async function chooseRule(
  scope: FirmScope,
  { level, about, rule }: { level: RuleLevel; about: string; rule: KeptRule | null },
  now: Date,
): Promise<void> {
  await markAbout(scope, level, about, now)
  await scope.query('delete from due_rule where firm_id = $1 and level = $2 and about = $3', [level, about])
  if (rule) await scope.insert(DueRuleRow, { level, about, ...rule })
}

/** Says how much is drawn, or takes it back. */
export async function stateUse(
  scope: FirmScope,
  { level, about, use }: { level: (typeof USE_LEVELS)[number]; about: string; use: Use | null },
  now: Date,
): Promise<void> {
  await markPlace(scope, level, about, now)
  await scope.query('delete from stated_use where firm_id = $1 and level = $2 and about = $3', [level, about])
  if (use) await scope.insert(StatedUseRow, { level, about, ...use })
}

/** The firm's rules: its own, those of media, and how many places have one of their own. */
export async function dueRules(scope: FirmScope): Promise<DueRulesDto> {
  const rows = await scope.find(DueRuleRow)
  const of = (level: RuleLevel): DueRuleRow[] => rows.filter((row) => row.level === level)
  const [own] = of('firm')
  return {
    firm: own ? recordOf(DUE_RULE_FIELDS, own) : USUAL_RULE,
    media: of('medium').map((row) => ({ media: row.about as Medium, rule: recordOf(DUE_RULE_FIELDS, row) })),
    own: { site: of('site').length, system: of('system').length, stage: of('stage').length },
  }
}
