import { inputOfSet } from '@evenround/contract/round-set'
import type { DataSource } from 'typeorm'
import { firmScopes } from '../db/scope'
import { openDraft, replacePlan } from '../features/round/draft'
import { publish } from '../features/round/publish'
import type { PlanInThread } from '../features/round/run'
import { islandTravel } from '../features/travel/islands'
import { dayIn } from '../time/zone'
import { demoId } from './ids'
import { DEMO_FIRM_ID } from './load'
import { DEMO_FIRM } from './world'

/** Long enough for a quarter of sixty sites. */
const SECONDS = 5

/** Plans the demo's quarter and publishes it, so that whoever looks at it first sees a firm at work and not one that is about to begin. */
export async function publishDemoRound(source: DataSource, now: Date, newId: () => string, plan: PlanInThread): Promise<void> {
  const inFirm = firmScopes(source)
  const planner = { personId: demoId('person', 'isla') }
  const today = dayIn(DEMO_FIRM.timeZone, now)
  const draft = await inFirm(DEMO_FIRM_ID, (scope) => openDraft(scope, { travel: islandTravel, now, newId }, today, planner.personId))
  const { days } = await plan({ input: inputOfSet(draft.set), seconds: SECONDS, from: draft.row.plan })
  await inFirm(DEMO_FIRM_ID, async (scope) => {
    const row = await replacePlan(scope, draft, draft.row.version, days, planner, now)
    await publish(scope, { ...draft, row }, planner.personId, now)
  })
}
