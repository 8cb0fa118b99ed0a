/** One coming change of one stage, as the wear forecast hands it on. Days are indices into the round's days. */
export interface DueStage {
  id: string
  system: string
  dueDay: number
  /** Hard, both ends included. */
  windowDays: readonly [number, number]
  /** Minutes a day. */
  latePerDay: number
  earlyPerDay: number
  workMin: number
  loadKg: number
  /** Work of one key goes together whatever it costs: a visit somebody pinned or promised. */
  together?: string
  /** Changes of one stage in one stretch are never one visit. */
  stage: string
}

export interface GroupTerms {
  /** What one more drive to the site costs, minutes. */
  driveMin: number
  /** Getting in, greeting, paper, once a visit, minutes. */
  accessMin: number
  /** Turning off, relieving, flushing, measuring, once a system, minutes. */
  setupMin: number
  /** Days a visit's window keeps at the least, as far as each of its stages has them: a window of one day is hard to plan. 0 when left out. */
  leastDays?: number
}

/** Stages of one site that are done in one visit. */
export interface Group {
  stages: DueStage[]
  dueDay: number
  windowDays: [number, number]
  latePerDay: number
  earlyPerDay: number
  serviceMin: number
  loadKg: number
  /** What going together costs the stages against each one's own due day, minutes: life thrown away and risk run. */
  strayMin: number
  /** Stages changed before their own due day, with the worth of the life thrown away. */
  pulledForward: { id: string; days: number; lostMin: number }[]
}

const stray = ({ dueDay, latePerDay, earlyPerDay }: DueStage, day: number): number =>
  day > dueDay ? (day - dueDay) * latePerDay : (dueDay - day) * earlyPerDay

/** Days common to all windows; null where there are none. */
function common(stages: readonly DueStage[]): [number, number] | null {
  const from = Math.max(...stages.map(({ windowDays }) => windowDays[0]))
  const to = Math.min(...stages.map(({ windowDays }) => windowDays[1]))
  return from <= to ? [from, to] : null
}

const setsOf = (stages: readonly DueStage[]): number => new Set(stages.map(({ system }) => system)).size
const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0)

function groupOf(stages: readonly DueStage[], { accessMin, setupMin, leastDays = 0 }: GroupTerms): Group | null {
  const window = common(stages)
  const narrowest = Math.min(leastDays, ...stages.map(({ windowDays: [from, to] }) => to - from))
  if (window === null || window[1] - window[0] < narrowest || new Set(stages.map(({ stage }) => stage)).size < stages.length) return null
  const priceOn = (day: number): number => sum(stages.map((stage) => stray(stage, day)))
  // A sum of such slopes is least at one of its bends, or at an end of the window.
  const bends = stages.map(({ dueDay }) => Math.min(window[1], Math.max(window[0], dueDay)))
  const day = bends.reduce((best, one) => (priceOn(one) < priceOn(best) - 1e-9 ? one : best))
  const late = sum(stages.map(({ dueDay, latePerDay, earlyPerDay }) => (dueDay <= day ? latePerDay : -earlyPerDay)))
  const early = sum(stages.map(({ dueDay, latePerDay, earlyPerDay }) => (dueDay >= day ? earlyPerDay : -latePerDay)))
  return {
    stages: [...stages],
    dueDay: day,
    windowDays: window,
    latePerDay: Math.max(0, late),
    earlyPerDay: Math.max(0, early),
    serviceMin: accessMin + setupMin * setsOf(stages) + sum(stages.map(({ workMin }) => workMin)),
    loadKg: sum(stages.map(({ loadKg }) => loadKg)),
    strayMin: priceOn(day),
    pulledForward: stages
      .filter(({ dueDay }) => dueDay > day)
      .map((stage) => ({ id: stage.id, days: stage.dueDay - day, lostMin: stray(stage, day) })),
  }
}

/** What a grouping costs beside the work of the stages themselves, minutes: drives, getting in, set-ups, and what strays from due days. */
export const groupingCost = (groups: readonly Group[], { driveMin, accessMin, setupMin }: GroupTerms): number =>
  sum(groups.map(({ stages, strayMin }) => driveMin + accessMin + setupMin * setsOf(stages) + strayMin))

/**
 * Puts the stages due at one site into visits: of all ways to part them in the order of their due days the cheapest, where a drive and
 * getting in stand against life thrown away and risk run. Stages go together only where their windows meet. Stages somebody put together
 * stay together as far as their windows meet.
 */
export function groupStages(due: readonly DueStage[], terms: GroupTerms): Group[] {
  const keyed = new Map<string, DueStage[]>()
  for (const stage of due) if (stage.together !== undefined) keyed.set(stage.together, [...(keyed.get(stage.together) ?? []), stage])
  const fixed: Group[] = []
  const free = due.filter(({ together }) => together === undefined)
  for (const stages of keyed.values()) {
    const whole = groupOf(stages, terms)
    if (whole) fixed.push(whole)
    else free.push(...stages)
  }
  return [...fixed, ...partedByDue(free, terms)].sort((a, b) => a.dueDay - b.dueDay)
}

function partedByDue(due: readonly DueStage[], terms: GroupTerms): Group[] {
  const stages = [...due].sort((a, b) => a.dueDay - b.dueDay || a.windowDays[1] - b.windowDays[1] || (a.id < b.id ? -1 : 1))
  const best: { cost: number; from: number; group: Group | null }[] = [{ cost: 0, from: 0, group: null }]
  for (let to = 1; to <= stages.length; to++) {
    let found: (typeof best)[number] = { cost: Number.POSITIVE_INFINITY, from: to - 1, group: null }
    for (let from = to - 1; from >= 0; from--) {
      const group = groupOf(stages.slice(from, to), terms)
      // A window that does not meet the others only meets fewer with more stages.
      if (group === null) break
      const cost = (best[from] as { cost: number }).cost + groupingCost([group], terms)
      if (cost < found.cost - 1e-9) found = { cost, from, group }
    }
    best.push(found)
  }
  const groups: Group[] = []
  for (let to = stages.length; to > 0; to = (best[to] as { from: number }).from) {
    const { group } = best[to] as { group: Group | null }
    if (group) groups.unshift(group)
  }
  return groups
}
