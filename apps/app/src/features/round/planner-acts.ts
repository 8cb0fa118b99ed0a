import { inputOfSet } from '@evenround/contract/round-set'
import type { Whose } from '@evenround/contract/round-sums'
import type { RoundPage, SetPlan } from '@evenround/contract/rounds'
import type { RoundInput, RoundPlan } from '@evenround/core/round'
import { joinPlans } from '@evenround/core/round/large'
import { say } from '@evenround/core/words'
import { useCallback, useRef, useState } from 'react'
import { ApiProblem } from '../../data/api'
import { planHere } from '../../data/plan-here'
import { queryClient } from '../../data/queries'
import { lookAnew, planThere, watchRun } from '../../data/round'

/** A plan somebody has not taken yet. */
export interface Proposal {
  setId: string
  version: number
  plan: SetPlan
  /** Where it was made. */
  by: 'device' | 'server'
  /** The server's run it came from: it is offered to everybody until it is applied or discarded. */
  run?: { id: string; byName: string; madeAt: string }
}

export interface Planning {
  share: number
  cost: number | null
  by: 'device' | 'server'
}

const OFFLINE = (error: unknown): boolean => error instanceof ApiProblem && error.code === 'OFFLINE'

/** What one person has and could have: a round of its own, the others left as they are. */
export function inputFor(page: RoundPage, whose: Whose): RoundInput {
  const input = inputOfSet(page.set)
  if (whose === 'all') return input
  const elsewhere = new Set(
    page.draft.plan.days.filter(({ technician }) => technician !== whose).flatMap(({ stops }) => stops.map(({ visit }) => visit)),
  )
  return {
    ...input,
    technicians: input.technicians.filter(({ id }) => id === whose),
    visits: input.visits.filter(({ id }) => !elsewhere.has(id)),
  }
}

/** What a move costs while a plan is only being mended: a day's rest is worth more than a shorter drive. */
const MENDING_CHANGE = 90
/** Of the search: a whole round gains by going on; of one that is held to its days little is left to find. */
const PLANNING_TURNS = 3
const MENDING_TURNS = 1

/** The round with everything held to where it stands, as well as it can be: what must move moves, little else does. */
export function mendingInput(page: RoundPage): RoundInput {
  const input = inputOfSet(page.set)
  const dayOf = new Map(page.draft.plan.days.flatMap(({ day, stops }) => stops.map(({ visit }) => [visit, day] as const)))
  return {
    ...input,
    weights: { ...input.weights, change: MENDING_CHANGE },
    visits: input.visits.map((visit) => {
      const day = dayOf.get(visit.id)
      return day === undefined ? visit : { ...visit, promisedDay: day }
    }),
  }
}

const deviceProposal = ({ set, draft }: RoundPage, { days, unplanned, cost }: RoundPlan): Proposal => ({
  setId: set.id,
  version: draft.version,
  plan: { days, unplanned, cost },
  by: 'device',
})

/** Planning with its progress and its stop: everybody's by the server, one person's, or without a network, in a worker of this device. */
export function usePlanner(whose: Whose) {
  const [planning, setPlanning] = useState<Planning | null>(null)
  const [proposal, setProposal] = useState<Proposal | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  const stop = useRef<() => void>(() => undefined)

  /** A worker's plan of one input, with its progress and its stop; null where it was stopped before there was one. */
  const onDevice = useCallback((input: RoundInput, page: RoundPage, turns: number): Promise<RoundPlan | null> => {
    const run = planHere({ input, from: page.draft.plan, turns }, (share, cost) => setPlanning({ share, cost, by: 'device' }))
    stop.current = run.stop
    return run.done
  }, [])
  const here = useCallback(
    async (page: RoundPage): Promise<Proposal | null> => {
      const plan = await onDevice(inputFor(page, whose), page, PLANNING_TURNS)
      if (!plan) return null
      const others = page.draft.plan.days.filter(({ technician }) => whose !== 'all' && technician !== whose)
      const whole = whose === 'all' ? plan : joinPlans(inputOfSet(page.set), [{ days: others }, plan])
      return deviceProposal(page, whole)
    },
    [whose, onDevice],
  )
  /** Something came between: what it left without a day is put where it disturbs least. Always on this device, since it is quick. */
  const mend = useCallback(
    async (page: RoundPage): Promise<void> => {
      setTrouble(null)
      setPlanning({ share: 0, cost: null, by: 'device' })
      try {
        const plan = await onDevice(mendingInput(page), page, MENDING_TURNS)
        if (plan) setProposal(deviceProposal(page, joinPlans(inputOfSet(page.set), [plan])))
      } catch (error) {
        setTrouble(error instanceof Error ? error.message : say`The round could not be planned again.`)
      }
      setPlanning(null)
    },
    [onDevice],
  )
  const there = useCallback(async (page: RoundPage): Promise<Proposal | null> => {
    let stopped = false
    stop.current = () => {
      stopped = true
    }
    const run = await planThere(
      page.set.id,
      (share, cost) => setPlanning({ share, cost, by: 'server' }),
      () => stopped,
    )
    if (run.state === 'failed') throw new Error(run.message)
    return run.plan
      ? { setId: page.set.id, version: page.draft.version, plan: run.plan, by: 'server', run: { id: run.id, byName: '', madeAt: '' } }
      : null
  }, [])
  /** What the server made while nobody looked, or is still making, as the page says. */
  const resume = useCallback(async ({ draft, offered, underWay }: Pick<RoundPage, 'draft' | 'offered' | 'underWay'>): Promise<void> => {
    if (offered) {
      const { id, setId, plan: made, byName, madeAt } = offered
      setProposal((now) => now ?? { setId, version: draft.version, plan: made, by: 'server', run: { id, byName, madeAt } })
      return
    }
    if (!underWay) return
    let stopped = false
    stop.current = () => {
      stopped = true
    }
    setPlanning({ share: underWay.share, cost: underWay.cost, by: 'server' })
    try {
      // Its plan comes with the page, which is asked for again once it is over.
      await watchRun(
        underWay.id,
        (share, cost) => setPlanning({ share, cost, by: 'server' }),
        () => stopped,
      )
      await queryClient.invalidateQueries({ queryKey: ['round'] })
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : say`How far the plan is cannot be shown.`)
    }
    setPlanning(null)
  }, [])

  const plan = useCallback(
    async (page: RoundPage): Promise<void> => {
      setTrouble(null)
      setProposal(null)
      setPlanning({ share: 0, cost: null, by: 'device' })
      try {
        // What is due is looked up first; without a network the set on this device has to do.
        const fresh = await lookAnew().catch((error: unknown) => {
          if (OFFLINE(error)) return null
          throw error
        })
        const now = fresh ?? page
        setProposal(whose === 'all' && fresh !== null ? await there(now) : await here(now))
      } catch (error) {
        setTrouble(error instanceof Error ? error.message : say`The round could not be planned.`)
      }
      setPlanning(null)
    },
    [whose, here, there],
  )
  return { planning, proposal, trouble, plan, mend, resume, stop: () => stop.current(), drop: () => setProposal(null) }
}
