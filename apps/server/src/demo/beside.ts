import type { DataSource } from 'typeorm'
import type { PlanInThread } from '../features/round/run'
import type { Deps } from '../http/env'
import { DEMO_FIRM_ID, loadDemo } from './load'
import { publishDemoRound } from './planned'
import { DEMO_PASSWORD, DEMO_PEOPLE } from './world'

/** The demo as somebody who has just begun may look at it: in its own firm, gone again at will. */
/** `plan` plans its quarter, which is then published; without it the demo begins with what is on the road this week. */
export const demoBeside = (source: DataSource, now: () => Date, newId: () => string, plan?: PlanInThread): Deps['demo'] => ({
  firmId: DEMO_FIRM_ID,
  people: DEMO_PEOPLE.map(({ name, email, role }) => ({ name, email, role, password: DEMO_PASSWORD })),
  load: async () => {
    await loadDemo(source, now(), newId)
    if (plan) await publishDemoRound(source, now(), newId, plan)
  },
  throwAway: async () => {
    await source.query('select throw_demo_away()')
  },
})
