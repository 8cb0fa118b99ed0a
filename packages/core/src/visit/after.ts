import type { Medium } from '../catalogue/names'
import { RESIN_TARGET_MGL, USUAL_MEMBRANE } from '../readings/limits'
import { atLeast, median } from '../units'

/** What is looked at when the water after the work is not as it should be, the likeliest first. */
export type AfterLook = 'mark' | 'swapped' | 'rinse' | 'air' | 'seal' | 'seat' | 'tube' | 'restrictor' | 'valve' | 'direction'

export interface AfterDoubt {
  why: 'not-measured' | 'resin-equal' | 'resin-over-target' | 'membrane-passes' | 'membrane-high' | 'flow-low' | 'untreated-jumped'
  stageId: string | null
  /** What was measured and what was to be expected: mg/L, a share, L/min. */
  measured: number
  expected: number
  looks: readonly AfterLook[]
  /** No reason makes this work: the visit is not closed as done with it. */
  notDone: boolean
}

export interface AfterInput {
  stages: readonly { id: string; media: Medium }[]
  /** Stages that had a new part, or a new filling, at this visit. */
  renewed: ReadonlySet<string>
  before: { untreatedMgL: number | null; treatedMgL: number | null }
  after: { untreatedMgL: number | null; treatedMgL: number | null }
  /** Untreated water as it was on earlier days, mg/L. */
  untreatedHistoryMgL: readonly number[]
  /** Flow after the work and what it is measured against: the clean flow, else the flow before; L/min. */
  flows: readonly { stageId: string; afterLMin: number; againstLMin: number }[]
}

/** A new resin leaves next to nothing; this much of what comes in means that the water goes round it. */
const EQUAL_SHARE = 0.9
const FLOW_SHARE = 0.5
const TENFOLD_FROM = 7
/** Under this a share says more of the meter than of the water, mg/L. */
const LEAST_UNTREATED_MGL = 20

/**
 * What the readings after the work ask about, before the visit can be closed as done: a new resin that lets everything through, a new
 * membrane that passes much, a flow under half, an untreated value unlike all before. Source: `readings.membrane` limits; procedures,
 * "What a visit can turn into".
 */
export function afterDoubts({ stages, renewed, before, after, untreatedHistoryMgL, flows }: AfterInput): AfterDoubt[] {
  const doubts: AfterDoubt[] = []
  const { untreatedMgL: feed, treatedMgL: product } = after
  const fresh = (media: Medium): string | undefined => stages.find((stage) => stage.media === media && renewed.has(stage.id))?.id
  const jumped = untreatedDoubt(feed, before.untreatedMgL, untreatedHistoryMgL)
  if (jumped) doubts.push(jumped)
  const unmeasured = fresh('deionising-resin') ?? fresh('membrane')
  if (unmeasured !== undefined && (feed === null || product === null))
    doubts.push({ why: 'not-measured', stageId: unmeasured, measured: 0, expected: 0, looks: [], notDone: false })
  if (feed !== null && product !== null && feed >= LEAST_UNTREATED_MGL) {
    const share = product / feed
    const resin = fresh('deionising-resin')
    const membrane = fresh('membrane')
    if (resin !== undefined) {
      const looks = ['rinse', 'tube', 'seal', 'air', 'swapped'] as const
      if (atLeast(share, EQUAL_SHARE))
        doubts.push({ why: 'resin-equal', stageId: resin, measured: product, expected: RESIN_TARGET_MGL, looks, notDone: true })
      else if (product > RESIN_TARGET_MGL)
        doubts.push({ why: 'resin-over-target', stageId: resin, measured: product, expected: RESIN_TARGET_MGL, looks, notDone: false })
    } else if (membrane !== undefined && share > USUAL_MEMBRANE.watchPassage) {
      const passes = share > USUAL_MEMBRANE.replacePassage
      doubts.push({
        why: passes ? 'membrane-passes' : 'membrane-high',
        stageId: membrane,
        measured: share,
        expected: USUAL_MEMBRANE.watchPassage,
        looks: ['mark', 'rinse', 'seat', 'seal', 'tube', 'restrictor'],
        notDone: passes,
      })
    }
  }
  for (const { stageId, afterLMin, againstLMin } of flows)
    if (afterLMin < FLOW_SHARE * againstLMin)
      doubts.push({
        why: 'flow-low',
        stageId,
        measured: afterLMin,
        expected: againstLMin,
        looks: ['valve', 'air', 'direction', 'tube'],
        notDone: false,
      })
  return doubts
}

/** An untreated value ten times or a tenth of what it was an hour ago, or of what it always was. */
function untreatedDoubt(feed: number | null, before: number | null, history: readonly number[]): AfterDoubt | null {
  const usual = before ?? (history.length >= 3 ? median(history) : null)
  if (feed === null || usual === null || usual <= 0) return null
  const times = Math.max(feed / usual, usual / Math.max(feed, 1e-9))
  if (times < TENFOLD_FROM) return null
  return { why: 'untreated-jumped', stageId: null, measured: feed, expected: usual, looks: ['mark', 'swapped', 'valve'], notDone: false }
}
