import type { DataSource } from 'typeorm'
import type { Deps } from '../http/env'
import { DEMO_FIRM_ID, loadDemo } from './load'
import { DEMO_PASSWORD, DEMO_PEOPLE } from './world'

/** The demo as somebody who has just begun may look at it: in its own firm, gone again at will. */
export const demoBeside = (source: DataSource, now: () => Date, newId: () => string): Deps['demo'] => ({
  firmId: DEMO_FIRM_ID,
  people: DEMO_PEOPLE.map(({ name, email, role }) => ({ name, email, role, password: DEMO_PASSWORD })),
  load: () => loadDemo(source, now(), newId),
  throwAway: async () => {
    await source.query('select throw_demo_away()')
  },
})
