import type { DraftChange, RoundState, SetPlan } from './rounds'

type Line = SetPlan['days'][number]
const keyOf = ({ technician, day }: Pick<Line, 'technician' | 'day'>): string => `${technician}/${day}`

const sameLine = (one: Line, two: Line): boolean =>
  one.travelMin === two.travelMin &&
  one.workMin === two.workMin &&
  one.overtimeMin === two.overtimeMin &&
  one.stops.length === two.stops.length &&
  one.stops.every((stop, index) => {
    const other = two.stops[index]
    return (
      stop.visit === other?.visit &&
      stop.arriveMin === other.arriveMin &&
      stop.startMin === other.startMin &&
      stop.leaveMin === other.leaveMin
    )
  })

/** What has to be said so that whoever has the plan `before` has the plan `after`. */
export function planChange(before: SetPlan, after: SetPlan): Pick<DraftChange, 'days' | 'unplanned' | 'placed' | 'cost'> {
  const was = new Map(before.days.map((line) => [keyOf(line), line]))
  const is = new Set(after.days.map(keyOf))
  const changed = after.days.filter((line) => {
    const old = was.get(keyOf(line))
    return old === undefined || !sameLine(old, line)
  })
  const gone = before.days
    .filter((line) => line.stops.length > 0 && !is.has(keyOf(line)))
    .map((line) => ({ ...line, stops: [], travelMin: 0, workMin: 0, overtimeMin: 0 }))
  const wasUnplanned = new Map(before.unplanned.map(({ visit, why }) => [visit, why]))
  const isUnplanned = new Set(after.unplanned.map(({ visit }) => visit))
  return {
    days: [...changed, ...gone],
    unplanned: after.unplanned.filter(({ visit, why }) => wasUnplanned.get(visit) !== why),
    placed: before.unplanned.flatMap(({ visit }) => (isUnplanned.has(visit) ? [] : [visit])),
    cost: after.cost,
  }
}

/** The plan with a change in place. */
export function withChange(
  before: SetPlan,
  { days, unplanned, placed, cost }: Pick<DraftChange, 'days' | 'unplanned' | 'placed' | 'cost'>,
): SetPlan {
  const lines = new Map(before.days.map((line) => [keyOf(line), line]))
  for (const line of days) {
    if (line.stops.length > 0) lines.set(keyOf(line), line)
    else lines.delete(keyOf(line))
  }
  const over = new Set([...placed, ...unplanned.map(({ visit }) => visit)])
  return { days: [...lines.values()], unplanned: [...before.unplanned.filter(({ visit }) => !over.has(visit)), ...unplanned], cost }
}

/** The round as it stands after a change; null where the change was done on another version than this one, and the round is to be asked for. */
export function stateAfter(state: RoundState, change: DraftChange): RoundState | null {
  if (state.setId !== change.setId || state.draft.version !== change.fromVersion) return null
  const { version, changedAt, byName } = change
  return { ...state, draft: { version, changedAt, byName, plan: withChange(state.draft.plan, change) } }
}
