import { MEDIA_PROFILES } from '../../catalogue/media-profiles'
import type { Medium } from '../../catalogue/names'
import { stageLabel } from '../labels'
import { laterStages, lineAfter, type Plan, type StepList } from '../plan'
import type { StageNode } from '../types'
import { openFeed } from './feed'

/** What a new carbon's fines, or dirt shaken loose, would spoil further on. */
const SPOILED: readonly Medium[] = [
  'carbon-block',
  'post-carbon',
  'membrane',
  'carbon-tank',
  'fluoride-media',
  'deionising-resin',
  'remineraliser',
]

const FLUSH_WHY: Record<NonNullable<(typeof MEDIA_PROFILES)[Medium]['flush']>['kind'], string> = {
  'to-clear': 'Dirt shaken loose by the change goes to waste, until it runs clear.',
  fines: 'New carbon sheds black fines: to waste, never onward into the next stage.',
  alone: 'This medium is flushed alone: what it sheds would settle in every later housing.',
  preservative: 'The membrane is packed in preservative: it goes to waste through the drain side with the tank shut.',
  cloud: 'Cloudy water with air, into a jug, before storage is connected.',
  grey: 'The first water of a new post carbon is grey: to waste.',
  'first-litres': 'The first litres of a new bed are above target: to waste.',
}

/** Which stages still wait for their flush, in flow order. */
export interface FlushState {
  waiting: StageNode[]
}

export const flushState = (plan: Plan): FlushState => ({
  waiting: plan.due.map(({ stage }) => stage).filter(({ media }) => MEDIA_PROFILES[media].flush !== null),
})

/** True where water through this new part must not go on into what follows. */
function needsOwnWay(plan: Plan, stage: StageNode): boolean {
  const later = laterStages(plan, stage)
  if (stage.media === 'fluoride-media') return later.length > 0
  const membraneLater = later.some(({ media }) => media === 'membrane')
  if (stage.media === 'sediment') return membraneLater
  return stage.media === 'carbon-block' && (later.some(({ media }) => SPOILED.includes(media)) || plan.tank !== null)
}

/** Adds one flush through these stages; minutes and litres are the most any of them asks for. */
export function addFlush(phase: string, stages: StageNode[], to: string, where: string, list: StepList): void {
  const needs = stages.map(({ media }) => MEDIA_PROFILES[media].flush).filter((flush) => flush !== null)
  const main = needs[needs.length - 1]
  if (!main) return
  const minutes = Math.max(...needs.map((need) => need.minutes))
  const litres = Math.max(...needs.map((need) => need.litres))
  const named = stages.map(stageLabel).join(', then ')
  list.add(
    phase,
    'flush',
    stages.map(({ id }) => id),
    {
      to,
      text: `Flush ${named} ${where}: ${minutes} minutes or ${litres} L, and until clear`,
      why: FLUSH_WHY[main.kind],
      evidence: 'timer',
      minutes,
      litres,
      tools: ['bucket'],
    },
  )
}

/** Each new part that would foul what follows is run to waste through the opened line behind it. */
export function flushApart(plan: Plan, list: StepList, state: FlushState): void {
  const apart = state.waiting.filter((stage, index) => {
    if (!needsOwnWay(plan, stage)) return false
    // Sediment rides along with the next carbon that is flushed apart anyway.
    const next = state.waiting[index + 1]
    return !(stage.media === 'sediment' && next !== undefined && needsOwnWay(plan, next))
  })
  for (const stage of apart) {
    const phase = `flush-${stage.id}`
    const line = lineAfter(plan, stage)
    list.add(phase, 'disconnect', [line], {
      text: `Free the line after ${stageLabel(stage)} and hold it over the bucket`,
      why: 'What the new part sheds ends in the bucket and not in the next stage.',
      tools: ['bucket'],
    })
    openFeed(phase, plan, list)
    const upTo = state.waiting.filter(({ position }) => position <= stage.position)
    const together = stage.media === 'fluoride-media' ? [stage] : upTo
    if (together.length < upTo.length) {
      addFlush(
        `${phase}-first`,
        upTo.filter(({ id }) => id !== stage.id),
        line,
        'into the bucket',
        list,
      )
    }
    addFlush(phase, together, line, 'into the bucket', list)
    state.waiting = state.waiting.filter(({ position }) => position > stage.position)
    list.add(phase, 'close', [plan.feed.id], { text: 'Shut the feed valve again', why: 'The line goes back on without water behind it.' })
    if (plan.pump)
      list.add(phase, 'power-off', [plan.pump], { text: 'Switch the pump off again', why: 'It must not start while the line is open.' })
    list.add(phase, 'relieve', [line], {
      text: 'Wait until the open line has stopped',
      why: 'Each shutting needs its own relief before the next joint is touched.',
    })
    list.add(phase, 'connect', [line], {
      text: 'Put the line back, push it home and tug it',
      why: 'A check valve or restrictor in this line stays with it.',
    })
  }
}
