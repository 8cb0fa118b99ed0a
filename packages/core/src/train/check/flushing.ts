import { CARBONS, type Medium } from '../../catalogue/names'
import { ownKindOf, profileOf } from '../../catalogue/own-kinds'
import { say } from '../../words'
import { goesRound } from '../graph'
import { inOf, wayOut } from '../machine/network'
import { stageOf, type TrainState } from '../machine/state'
import type { StageNode, Task } from '../types'
import { soakHours } from './amount'
import type { Checking, CheckStep, EndRule, StepRule } from './types'

const SHEDS: readonly Medium[] = [...CARBONS, 'membrane', 'remineraliser', 'fluoride-media', 'iron-bed', 'ph-bed']
export const SPOILED: readonly Medium[] = [...CARBONS, 'membrane', 'ultrafiltration']
const ALONE_MINUTES = 10

/** New, it sheds what harms others; one of the firm's own that is flushed is taken to. */
export const shedsNew = (stage: StageNode): boolean => SHEDS.includes(stage.media) || (ownKindOf(stage)?.flush ?? null) !== null
/** Whether this work puts in something that soaks in its tank until another day. */
const soaksInTank = ({ stage, task }: { stage: StageNode; task: Task }): boolean =>
  stage.media === 'carbon-tank' ? task.action === 'refill' : stage.housing === 'media-tank' && Boolean(ownKindOf(stage)?.soakHours)

const WHAT: Partial<Record<Medium, string>> = {
  get membrane() {
    return say`preservative`
  },
  get remineraliser() {
    return say`cloud`
  },
  get 'ph-bed'() {
    return say`cloud`
  },
  get 'fluoride-media'() {
    return say`fines of the fluoride medium`
  },
}

/** The stages that water of this one meets on its way out, without it; null where no way is open. */
function metBy(
  { train }: Checking,
  state: TrainState,
  stage: StageNode,
  to: string,
): { stages: StageNode[]; end: string; nodes: string[] } | null {
  // Out of its own opening, into a jug.
  const way = to === 'vessel' ? [stage.id] : wayOut(train, state, stage.id, to)
  if (way === null) return null
  const later = way.slice(1)
  const stages = later.flatMap((id) => {
    const one = stageOf(train, id)
    return one && state.stages.get(id)?.element !== 'none' ? [one] : []
  })
  return { stages, end: way.at(-1) ?? '', nodes: way }
}

/** A tank whose way in hangs open on one of these nodes. */
const tankOn = ({ train }: Checking, state: TrainState, nodes: readonly string[]): string | null =>
  train.pipes.flatMap(({ from, to }) => {
    const tank = train.nodes.find(({ id, kind }) => id === to && kind === 'tank')
    return tank && nodes.includes(from) && !state.shut.has(to) && !state.apart.has(`${from}>${to}`) ? [to] : []
  })[0] ?? null

/** First water of a new part goes to waste: never into a later membrane, carbon, storage or appliance. */
export const onward: StepRule = (checking, state, step) => {
  if ((step.verb !== 'flush' && step.verb !== 'trickle') || step.to === undefined) return null
  const { train, due } = checking
  for (const id of step.at) {
    const stage = stageOf(train, id)
    const now = state.stages.get(id)
    if (!stage || !now) continue
    if (!state.watered.has(inOf(train, id))) return say`no water comes to ${id}: there is nothing to flush it with`
    const met = metBy(checking, state, stage, step.to)
    if (met === null) return say`no way is open from ${id} to ${step.to}`
    if (now.flushed || !due.some((one) => one.stage.id === id) || !shedsNew(stage) || now.element === 'old') continue
    const what = WHAT[stage.media] ?? 'fines'
    const drain = train.pipes.some(({ from, to }) => from === id && train.nodes.some((node) => node.id === to && node.kind === 'drain'))
    if (stage.media === 'membrane' && drain && train.nodes.some((node) => node.id === step.to && node.kind === 'outlet'))
      return say`${what} of ${id} run out by ${step.to}: the drain side is there for it`
    const spoiled = met.stages.find(({ media }) => SPOILED.includes(media))
    if (spoiled) return say`${what} of ${id} run into ${spoiled.id}`
    const end = train.nodes.find((node) => node.id === met.end)
    if (end?.kind === 'outlet' && (end.use === 'ice' || end.use === 'appliance'))
      return say`${what} of ${id} run into the ${end.use === 'ice' ? say`ice maker` : say`appliance`}`
    const tank = tankOn(checking, state, met.nodes)
    if (tank && stage.media !== 'post-carbon') return say`${what} of ${id} run into ${tank}`
  }
  return null
}

/** A medium that is flushed alone has nothing after it, for ten minutes. */
export const alone: StepRule = (checking, state, step) => {
  if (step.verb !== 'flush' || step.to === undefined) return null
  for (const id of step.at) {
    const stage = stageOf(checking.train, id)
    const now = state.stages.get(id)
    const own = stage && ownKindOf(stage)?.flush
    if ((stage?.media !== 'fluoride-media' && !own?.alone) || !stage || !now || now.flushed) continue
    const least = own?.minutes ?? ALONE_MINUTES
    if (step.at.length > 1) return say`${id} is flushed together with others`
    if (step.minutes < least) return say`${id} wants ${least} minutes alone, not ${step.minutes}`
    const met = metBy(checking, state, stage, step.to)
    if (met === null || met.stages.length > 0) return say`${id} is flushed into ${met?.stages[0]?.id ?? say`nowhere`}`
  }
  return null
}

/** What is flushed before service was flushed after it went in. */
export const flushedAll: EndRule = ({ due, steps }) =>
  due.flatMap(({ stage, task }) => {
    if (profileOf(stage).flush === null || soaksInTank({ stage, task })) return []
    const fit = steps.findLastIndex((step) => step.verb === 'fit' && step.at[0] === stage.id)
    const flush = steps.findIndex((step, index) => index > fit && step.verb === 'flush' && step.at.includes(stage.id))
    return flush < 0 ? [{ text: say`${stage.id} is never flushed` }] : []
  })

const fillsTank = ({ train, due }: Checking): boolean =>
  train.nodes.some(({ kind }) => kind === 'tank') &&
  due.some(({ stage }) => stage.media === 'membrane' || stage.media === 'post-carbon' || stage.media === 'remineraliser')

const makesIce = ({ train, due }: Checking): boolean =>
  train.nodes.some((node) => node.kind === 'outlet' && node.use === 'ice') && due.some(({ stage }) => CARBONS.includes(stage.media))

/** The first full tank and the first day's ice go away. */
export const firstWater: EndRule = (checking) => {
  const { train, steps, holds } = checking
  const wasted = (step: CheckStep): boolean =>
    (step.verb === 'drain' || step.verb === 'flush') &&
    step.at.some((id) => train.nodes.some((node) => node.id === id && node.kind === 'tank'))
  const fit = steps.findLastIndex(({ verb }) => verb === 'fit')
  const tank =
    fillsTank(checking) && !holds.some(({ kind }) => kind === 'first-tank') && !steps.some((step, index) => index > fit && wasted(step))
  const ice = makesIce(checking) && !holds.some(({ kind }) => kind === 'ice')
  return [
    ...(tank ? [{ text: say`the first full tank is not held back` }] : []),
    ...(ice ? [{ text: say`the first day’s ice is not held back` }] : []),
  ]
}

/** A bed soaks out of the water's way: what is drawn through it before its hours are over is drawn through a bed that floats. */
export const soakApart: StepRule = ({ train }, state, step) => {
  if (step.verb !== 'soak' || step.to === 'vessel') return null
  for (const id of step.at) {
    const around = train.nodes.filter((node) => node.kind === 'bypass' && goesRound(train, node, id))
    const aside = around.some((node) => state.bypassed.has(node.id)) || !state.fed.has(inOf(train, id))
    if (!aside) return say`${id} soaks in the way of the water`
  }
  return null
}

/** One of the firm's own that soaks in a vessel stood there before it went in. */
function soakedOutside(stage: StageNode, steps: readonly CheckStep[]): { text: string }[] {
  if (!ownKindOf(stage)?.soakHours) return []
  const soaks = steps.findIndex(({ verb, at }) => verb === 'soak' && at.includes(stage.id))
  const flushed = steps.findIndex(({ verb, at }) => verb === 'flush' && at.includes(stage.id))
  const fitted = steps.findIndex(({ verb, at }) => verb === 'fit' && at[0] === stage.id)
  const first = flushed < 0 ? fitted : flushed
  return soaks < 0 || (first >= 0 && first < soaks) ? [{ text: say`${stage.id} is never soaked before it is run` }] : []
}

/** A bed that soaks is filled and left for its hours before it is trickled and backwashed, on another day. */
export const soak: EndRule = ({ due, visits, steps }) =>
  due.flatMap(({ stage, task }) => {
    if (!soaksInTank({ stage, task })) return soakedOutside(stage, steps)
    const hours = soakHours(stage)
    const at = (verb: CheckStep['verb']): [number, number] | null => {
      for (const [visit, { steps }] of visits.entries()) {
        const index = steps.findIndex((step) => step.verb === verb && step.at.includes(stage.id))
        if (index >= 0) return [visit, index]
      }
      return null
    }
    const [soaks, trickles, washes] = [at('soak'), at('trickle'), at('backwash')]
    if (soaks === null) return [{ text: say`${stage.id} is never soaked` }]
    if (trickles === null || washes === null) return [{ text: say`${stage.id} is not trickled and backwashed` }]
    const gap = visits[trickles[0]]?.minGapHoursBefore ?? 0
    if (trickles[0] <= soaks[0] || gap < hours) return [{ text: say`${stage.id} is flushed before ${hours} hours of soaking` }]
    const early = trickles[0] > washes[0] || (trickles[0] === washes[0] && trickles[1] > washes[1])
    return early ? [{ text: say`${stage.id} is backwashed before it was trickled` }] : []
  })
