import type { HindsightDto } from '@evenround/contract/wear'
import { addDays } from '@evenround/core/units'
import { type Hindsight, type HindsightAsk, type KeptRule, ruleOf, type Served, type Spent, USUAL_RULE } from '@evenround/core/wear'
import { Firm } from '../../db/entities/master'
import type { FirmScope, InFirm } from '../../db/scope'
import { dayIn } from '../../time/zone'
import { knownOfSystems } from './inputs'
import { dueRules } from './rules'

const TWO_YEARS_DAYS = 730
/** So many systems tell what a rule means; a larger firm's are taken evenly from all over it. */
const SYSTEMS_AT_MOST = 250

/** Systems of the firm, evenly taken where there are many. */
const someSystems = (scope: FirmScope): Promise<{ id: string; whole: number }[]> =>
  scope.query(
    `select id, whole::int from (select id, row_number() over (order by id) - 1 as nr, count(*) over () as whole from system
       where firm_id = $1 and gone_at is null) one
     where nr % greatest(1, whole / ${SYSTEMS_AT_MOST}) = 0 order by id limit ${SYSTEMS_AT_MOST}`,
  )

const rule = (more: Partial<KeptRule>): KeptRule => ({ ...USUAL_RULE, ...more })
/** What is held beside the firm's own rule. */
const RULES: readonly KeptRule[] = [
  rule({}),
  rule({ by: 'label' }),
  rule({ by: 'contract', months: 6 }),
  rule({ by: 'contract', months: 12 }),
]

/** What each rule would have meant for the firm's own last two years. */
export async function hindsightPage(
  inFirm: InFirm,
  firmId: string,
  now: Date,
  inHindsight: (ask: HindsightAsk) => Promise<Hindsight>,
): Promise<HindsightDto> {
  const { served, all, own, from, to } = await inFirm(firmId, async (scope) => {
    const firm = await scope.findOne(Firm, {})
    const to = dayIn(firm?.timeZone ?? 'UTC', now)
    const from = addDays(to, -TWO_YEARS_DAYS)
    const systems = await someSystems(scope)
    const known = firm
      ? await knownOfSystems(
          scope,
          systems.map(({ id }) => id),
          { firm, today: to },
        )
      : new Map()
    const times: Served[] = [...known.values()].flatMap(({ served }) => served())
    const within = times.filter(({ removedOn }) => removedOn === null || removedOn > from)
    const share = systems.length / Math.max(1, systems[0]?.whole ?? 1)
    return { served: within, all: Math.round(within.length / Math.max(share, 1e-9)), own: (await dueRules(scope)).firm, from, to }
  })
  const rules = [own, ...RULES.filter((one) => JSON.stringify(one) !== JSON.stringify(own))]
  const told = await inHindsight({ served, rules: rules.map(ruleOf), from, to })
  return {
    from,
    to,
    looked: served.length,
    all,
    done: told.done,
    rules: rules.map((one, index) => ({ rule: one, ...(told.rules[index] as Spent) })),
  }
}
