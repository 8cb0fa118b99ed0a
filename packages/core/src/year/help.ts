import { type Weeks, YearBook } from './book'
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

/** Weeks of a chain with one of them moved, and what follows of it as near to where it was as its windows allow; null where it cannot be. */
function movedWeeks(book: YearBook, line: number, own: Weeks, { from, to }: Pick<YearMove, 'from' | 'to'>): number[] | null {
  const { chain } = book.lines[line] as YearBook['lines'][number]
  const times = own.indexOf(from)
  const before = times > 0 ? (own[times - 1] as number) : null
  const held = times === 0 && chain.pinned !== undefined
  if (times < 0 || held || chain.closed?.includes(to) || (before !== null && to <= before)) return null
  return continued(book, line, [...own.slice(0, times), to], (nth, due) => own[nth] ?? due)
}

const isOpen = ({ weeks, capacityMin }: YearInput, week: number): boolean => week >= 0 && week < weeks && (capacityMin[week] ?? 0) > 0

function bookOf(input: YearInput, done: ReadonlyMap<string, Weeks>): YearBook {
  const book = new YearBook(input)
  for (const [line, { chain }] of book.lines.entries()) book.put(line, done.get(chain.id) ?? [])
  return book
}

/**
 * A plan with some of a week's work done in another week. The windows of what is moved are made as wide as that; null where it cannot be
 * moved so: shut, held to a day, or not after the time before.
 */
export function withMove(
  input: YearInput,
  plan: Pick<YearPlan, 'visits'>,
  { chains, from, to }: YearMove,
): { input: YearInput; plan: YearPlan } | null {
  if (!isOpen(input, to)) return null
  const moved = new Set(chains)
  const done = weeksByChain(plan.visits)
  const wider = input.chains.map((chain) => {
    const own = done.get(chain.id) ?? []
    const times = moved.has(chain.id) ? own.indexOf(from) : -1
    return times < 0 ? chain : stretched(chain, (times > 0 ? (own[times - 1] as number) : chain.last) + chain.every, to)
  })
  const then = { ...input, chains: wider }
  const book = bookOf(then, done)
  for (const [line, { chain }] of book.lines.entries()) {
    if (!moved.has(chain.id)) continue
    const own = done.get(chain.id) ?? []
    const weeks = movedWeeks(book, line, own, { from, to })
    const times = own.indexOf(from)
    if (weeks === null || !book.allowed(line, times > 0 ? (own[times - 1] as number) : null).includes(to)) return null
    book.put(line, weeks)
  }
  return { input: then, plan: book.plan() }
}

/** What the year costs less with these chains moved; nothing where one of them cannot be. The book is left as it was. */
function savedBy(book: YearBook, lines: readonly number[], move: Pick<YearMove, 'from' | 'to'>): number {
  if (!isOpen(book.input, move.to)) return 0
  const was = lines.map((line) => book.done[line] as Weeks)
  const then = lines.map((line, index) => movedWeeks(book, line, was[index] as Weeks, move))
  if (then.includes(null)) return 0
  const cost = book.cost
  for (const [index, line] of lines.entries()) book.put(line, then[index] as Weeks)
  const saved = cost - book.cost
  for (const [index, line] of lines.entries()) book.put(line, was[index] as Weeks)
  return saved
}

/**
 * What would make a heavy week lighter: work of one kind (`kindsOf`: chains that are spoken of together) moved to the week near it where the
 * year gains most by it, with what that saves; the best first. Nothing where every move costs more than it gains.
 */
export function helpFor(input: YearInput, plan: YearPlan, week: number, kindsOf: (chain: YearChain) => string[]): YearHelp[] {
  const book = bookOf(input, weeksByChain(plan.visits))
  const byKind = new Map<string, number[]>()
  for (const [line, { chain }] of book.lines.entries())
    if (book.done[line]?.includes(week)) for (const kind of kindsOf(chain)) byKind.set(kind, [...(byKind.get(kind) ?? []), line])
  const kinds = new Map([...byKind.values()].map((lines) => [lines.join(), lines]))
  const found: (YearMove & { saves: number })[] = []
  for (const lines of kinds.values()) {
    const chains = lines.map((line) => (book.lines[line] as YearBook['lines'][number]).chain.id)
    let best = { chains, from: week, to: week, saves: EPS }
    for (let to = week - FURTHEST_WEEKS; to <= week + FURTHEST_WEEKS; to++) {
      const saves = to === week ? 0 : savedBy(book, lines, { from: week, to })
      if (saves > best.saves) best = { ...best, to, saves }
    }
    if (best.to !== week) found.push(best)
  }
  return found
    .sort((a, b) => b.saves - a.saves)
    .slice(0, MOST_HELP)
    .flatMap(({ saves: _, ...move }) => {
      const tried = withMove(input, plan, move)
      const saves = tried ? plan.cost.total - tried.plan.cost.total : 0
      return tried && saves > EPS ? [{ ...move, ...tried, saves }] : []
    })
}
