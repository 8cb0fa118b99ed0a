import type { DisinfectionPage, DisinfectionSetup } from '@evenround/contract/disinfections'
import { DISCHARGES, type JobPlan } from '@evenround/core/disinfection'
import {
  chemicalsPossible,
  contactAsked,
  type Guarded,
  type JobFigures,
  type JobState,
  type JobStep,
  jobFigures,
  jobState,
  jobSteps,
  standsMgL,
  storedIsFit,
} from '@evenround/core/job'
import type { SheetSchools } from '@evenround/core/train'
import { protection } from '@evenround/core/train/protect'
import type { Fact } from '@evenround/core/visit'
import { useMemo } from 'react'
import { useOutbox } from './outbox'
import { KEY, queryClient, useDisinfection, useMe } from './queries'

export interface Job {
  state: JobState
  page: DisinfectionPage | null
  plan: JobPlan | null
  figures: JobFigures | null
  guarded: Guarded[]
  steps: JobStep[]
  ready: boolean
  /** False while the server's page is on its way: only the server knows what an earlier job left open. */
  known: boolean
  error: unknown
}

/** A job that was planned here and is not on the server yet: put together from what its plan was made of. */
function fromSetup(id: string, facts: readonly Fact[]): DisinfectionPage | null {
  const planned = facts.find((fact) => fact.kind === 'job-planned')
  const setup = planned && queryClient.getQueryData<DisinfectionSetup>(KEY.setup(planned.siteId))
  if (!setup) return null
  return {
    id,
    site: setup.site,
    systems: setup.systems,
    holds: [],
    earlierHolds: [],
    facts: [],
    people: setup.people,
    earlierPositives: 0,
    acid: setup.acid
      .filter(({ technicianId, day }) => technicianId === planned.plan.technicianId && day === planned.plan.day)
      .map(({ siteName }) => siteName),
  }
}

/** How each of the job's systems is kept from harm, by the firm's schools. */
export function guardedSystems(plan: JobPlan, systems: DisinfectionPage['systems'], schools: SheetSchools): Guarded[] {
  const own = plan.targets.includes('drinking-unit')
  return systems
    .filter(({ id }) => plan.systemIds.includes(id))
    .map(({ id, name, train }) => ({
      systemId: id,
      systemName: name,
      protection: protection(train, {
        schools,
        heater: plan.heater,
        own,
        contactHours: contactAsked(plan).hours,
        storedIsFit: storedIsFit(plan.reason),
      }),
    }))
}

/** A job from its facts: what the server has and what still waits on this device; figures and steps are worked out from them. */
export function useJob(id: string): Job {
  const query = useDisinfection(id)
  const schools = useMe().data?.firm.schools
  const entries = useOutbox((outbox) => outbox.entries)
  const loaded = useOutbox((outbox) => outbox.loaded)
  const local = useMemo(
    () => entries.filter(({ fact, state: sent }) => fact.visitId === id && sent !== 'refused').map(({ fact }) => fact),
    [entries, id],
  )
  const page = query.data ?? (loaded ? fromSetup(id, local) : null)
  const known = query.data !== undefined || query.isError || query.fetchStatus === 'paused'
  const state = useMemo(() => jobState([...(page?.facts ?? []).map(({ fact }): Fact => fact), ...local]), [local, page])
  const { plan } = state
  const chosen = state.done.get('flush/where')?.choice
  const made = useMemo(() => {
    if (plan === null || page === null || !schools) return { figures: null, guarded: [], steps: [] }
    const planned = jobFigures(plan)
    // What strips showed the water to hold decides how it is flushed and neutralised; before the first strip the doses do.
    const stands = standsMgL(state, { totalL: planned.totalL, available: planned.strength.available })
    const figures = stands === null ? planned : jobFigures(plan, stands)
    const guarded = guardedSystems(plan, page.systems, schools)
    // Where the water goes is decided at the door; the plan only expected it.
    const discharge = DISCHARGES.find((one) => one === chosen) ?? plan.discharge
    const known = { acidAt: page.acid, chemicals: chemicalsPossible(state) }
    return { figures, guarded, steps: jobSteps({ ...plan, discharge }, figures, guarded, known) }
  }, [plan, page, schools, chosen, state])
  return { state, page, plan, ...made, ready: loaded && (page !== null || query.isError), known, error: query.error }
}
