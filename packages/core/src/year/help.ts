import { YearBook } from './book'
import { continued, weeksByChain } from './given'
import type { YearChain, YearInput, YearPlan } from './types'

/** A week is heavy from this much over its level on, or where more is to do than there are hours. */
const HEAVY = 1.25
/** As far as work is ever moved for one week's sake. */
const FURTHEST_WEEKS = 4
const MOST_HELP = 3
const EPS = 1e-6

/** Some work of a week done in another, beyond its window where it must be. */
export interface YearMove {
  chains: readonly string[]
  from: number
  to: number
}

export interface YearHelp extends YearMove {
  /** What the year costs less, all parts together. */
  saves: number
  plan: YearPlan
  /** The chains with their windows as wide as the move wants them. */
  input: YearInput
}

/** Weeks with too much in them, the worst first. */
export const heavyWeeks = ({ weeks }: Pick<YearPlan, 'weeks'>, { capacityMin }: Pick<YearInput, 'capacityMin'>): number[] =>
  weeks
    .flatMap(({ week, loadMin, levelMin }) => {
      const capacity = capacityMin[week] as number
      const over = Math.max(loadMin - capacity, levelMin > 0 ? loadMin - HEAVY * levelMin : 0)
      return capacity > 0 && over > EPS ? [{ week, over }] : []
    })
    .sort((a, b) => b.over - a.over || a.week - b.week)
    .map(({ week }) => week)

/** A chain whose windows reach a week that its due does not. */
function stretched(chain: YearChain, due: number, week: number): YearChain {
  return {
    ...chain,
    early: Math.min(chain.every - 1, Math.max(chain.early, due - week)),
    late: Math.max(chain.late, week - due),
  }
}

/**
 * A plan with some of a week's work done in another week, and what follows of it as near to where it was as its windows allow. The windows
 * of what is moved are made as wide as that; null where it cannot be moved so: shut, held to a day, before the time before or after the one after.
 */
export function withMove(
  input: YearInput,
  plan: Pick<YearPlan, 'visits'>,
  { chains, from, to }: YearMove,
): { input: YearInput; plan: YearPlan } | null {
  const moved = new Set(chains)
  const done = weeksByChain(plan.visits)
  if (to < 0 || to >= input.weeks || !((input.capacityMin[to] ?? 0) > 0)) return null
  const wider: YearChain[] = []
  for (const chain of input.chains) {
    if (!moved.has(chain.id)) {
      wider.push(chain)
      continue
    }
    const own = done.get(chain.id) ?? []
    const times = own.indexOf(from)
    const before = times > 0 ? (own[times - 1] as number) : null
    const held = times === 0 && chain.pinned !== undefined
    if (times < 0 || held || chain.closed?.includes(to) || (before !== null && to <= before)) return null
    wider.push(stretched(chain, before === null ? chain.last + chain.every : before + chain.every, to))
  }
  const then = { ...input, chains: wider }
  const book = new YearBook(then)
  for (const [line, { chain }] of book.lines.entries()) {
    const own = done.get(chain.id) ?? []
    const times = moved.has(chain.id) ? own.indexOf(from) : -1
    if (times < 0) book.put(line, own)
    else if (!book.allowed(line, times > 0 ? (own[times - 1] as number) : null).includes(to)) return null
    else
      book.put(
        line,
        continued(book, line, [...own.slice(0, times), to], (nth, due) => own[nth] ?? due),
      )
  }
  return { input: then, plan: book.plan() }
}

/**
 * What would make a heavy week lighter: work of one kind (`kindOf`: chains that are spoken of together) moved to the week near it where the
 * year gains most by it, with what that saves; the best first. Nothing where every move costs more than it gains.
 */
export function helpFor(input: YearInput, plan: YearPlan, week: number, kindOf: (chain: YearChain) => string): YearHelp[] {
  const kinds = new Map<string, string[]>()
  const there = new Set(plan.visits.flatMap((visit) => (visit.week === week ? visit.chains : [])))
  for (const chain of input.chains) if (there.has(chain.id)) kinds.set(kindOf(chain), [...(kinds.get(kindOf(chain)) ?? []), chain.id])
  const found: YearHelp[] = []
  for (const chains of kinds.values()) {
    let best: YearHelp | null = null
    for (let by = -FURTHEST_WEEKS; by <= FURTHEST_WEEKS; by++) {
      const move = { chains, from: week, to: week + by }
      const tried = by === 0 ? null : withMove(input, plan, move)
      if (!tried) continue
      const saves = plan.cost.total - tried.plan.cost.total
      if (saves > (best?.saves ?? EPS)) best = { ...move, ...tried, saves }
    }
    if (best) found.push(best)
  }
  return found.sort((a, b) => b.saves - a.saves).slice(0, MOST_HELP)
}
