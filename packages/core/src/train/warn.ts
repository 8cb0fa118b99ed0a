import { DECHLORINATES } from '../catalogue/names'
import { profileOf } from '../catalogue/own-kinds'
import { say } from '../words'
import { comesTo, goesRound, stagesInFlow } from './graph'
import { chooseIsolation, openedChambers, reliefPoints } from './isolation'
import { stageLabel } from './labels'
import { edgesOf, emptiedBy, inOf, type Joints } from './machine/network'
import { inService, isDry, shutsItself } from './machine/state'
import { nodesOf, outlets, planOn } from './plan'
import type { StageNode, Train } from './types'

/** Something about a train that cannot work, hurts what it should treat, or is not known. */
export interface TrainWarning {
  id: string
  /** The node it is about; null for the train as a whole. */
  node: string | null
  text: string
}

const isBefore = (train: Train, a: StageNode, b: StageNode): boolean => a.id !== b.id && comesTo(train, a.id, b.id)

function order(train: Train, stages: readonly StageNode[]): TrainWarning[] {
  const warnings: TrainWarning[] = []
  const warn = (id: string, node: string, text: string): void => void warnings.push({ id, node, text })
  for (const stage of stages) {
    const before = stages.filter((one) => isBefore(train, one, stage))
    const after = stages.filter((one) => isBefore(train, stage, one))
    if (stage.media === 'membrane') {
      if (!before.some(({ media }) => media === 'sediment' || media === 'sediment-carbon'))
        warn('membrane-without-sediment', stage.id, say`No sediment filter stands before the membrane: dirt fouls it within weeks.`)
      if (!before.some(({ media }) => DECHLORINATES.includes(media)))
        warn(
          'membrane-without-carbon',
          stage.id,
          say`No carbon stands before the membrane: chlorine in the supply destroys it. A well without chlorine may do without.`,
        )
      if (!train.pipes.some(({ from, to }) => from === stage.id && nodesOf(train, 'drain').some(({ id }) => id === to)))
        warn('membrane-without-drain', stage.id, say`The membrane shows no drain line: it cannot work without one.`)
    }
    if (stage.media === 'remineraliser' && after.some(({ media }) => media === 'membrane'))
      warn(
        'remineraliser-before-membrane',
        stage.id,
        say`The remineraliser stands before the membrane, which takes its minerals out again and scales. It belongs after it.`,
      )
    if (stage.media === 'post-carbon' && after.some(({ media }) => media === 'membrane'))
      warn('post-carbon-before-membrane', stage.id, say`A post carbon stands before the membrane. Is it the prefilter’s carbon?`)
    if (stage.media === 'uv-lamp' && after.some(({ media }) => media === 'sediment' || DECHLORINATES.includes(media)))
      warn(
        'lamp-before-filters',
        stage.id,
        say`The lamp stands before filters: germs grow in what follows it, and dirt shades it. It belongs last.`,
      )
    if (stage.media === 'deionising-resin' && after.some(({ media }) => media === 'membrane'))
      warn('resin-before-membrane', stage.id, say`Resin before the membrane is used up for nothing: it belongs after it.`)
  }
  return warnings
}

/** Whether something can be shut before this stage, and its water then let out. */
function isolation(train: Train, stage: StageNode): TrainWarning[] {
  if (isDry(stage) || shutsItself(stage)) return []
  const plan = planOn(train, { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' })
  const state = inService(train)
  const found = chooseIsolation(plan, state, [stage], [])
  if (found === null)
    return [
      { id: 'no-shut-off', node: stage.id, text: say`Nothing shuts the water before ${stageLabel(stage)}. Find the shut-off and add it.` },
    ]
  // A bed in its own bypass is eased at its unions, and the house keeps its water.
  if (found.bypass !== null && stage.housing === 'media-tank') return []
  const joints: Joints = {
    shut: new Set([...found.close, ...found.tanks.map(({ id }) => id)]),
    still: new Set(found.pumps),
    apart: new Set(),
    bypassed: new Set(found.bypass === null ? [] : [found.bypass]),
  }
  const edges = edgesOf(train, joints)
  const freed = new Set(reliefPoints(train).flatMap((point) => [...emptiedBy(edges, inOf(train, point.split('.')[0] as string))]))
  const held = openedChambers(train, [stage], [], joints.bypassed).some((one) => !freed.has(one))
  return held
    ? [
        {
          id: 'no-relief',
          node: stage.id,
          text: say`No tap, button or cock lets the pressure out of ${stageLabel(stage)}: the sheet eases a joint. A button or a tap is safer.`,
        },
      ]
    : []
}

function supply(train: Train, stages: readonly StageNode[]): TrainWarning[] {
  const round = (stage: StageNode): boolean => nodesOf(train, 'bypass').some((bypass) => goesRound(train, bypass, stage.id))
  const wet = stages.filter((stage) => !isDry(stage))
  const must = outlets(train).filter(({ mustGoOn }) => mustGoOn)
  const beds = stages.filter(({ media }) => media === 'carbon-tank').filter((stage) => !round(stage))
  return [
    ...(must.length > 0 && wet.some((stage) => !round(stage))
      ? [
          {
            id: 'must-go-on-without-bypass',
            node: must[0]?.id ?? null,
            text: say`Water must go on here and no bypass goes round the whole set: each change wants a quiet hour.`,
          },
        ]
      : []),
    ...beds.map((stage) => ({
      id: 'bed-without-bypass',
      node: stage.id,
      text: say`No bypass goes round the carbon tank: while a new bed soaks the house is without water for two days.`,
    })),
    ...(outlets(train).length === 0 ? [{ id: 'no-outlet', node: null, text: say`The train shows no tap or other outlet.` }] : []),
  ]
}

/** What nobody has confirmed: the sheet asks for it. */
function unknown(stages: readonly StageNode[]): TrainWarning[] {
  const blind = stages.filter((stage) => stage.inletConfirmed !== true && !isDry(stage))
  const names = blind.map((stage) => `${stage.position} (${profileOf(stage).name})`)
  return blind.length === 0
    ? []
    : [
        {
          id: 'inlet-unknown',
          node: blind[0]?.id ?? null,
          text: say`Not confirmed which side the water comes in: position ${names.join(', ')}. The sheet asks before it trusts the valve.`,
        },
      ]
}

/** What cannot work, spoils what follows, or is not known about a train, in flow order. Pure; never refuses a train. */
export function trainWarnings(train: Train): TrainWarning[] {
  const stages = stagesInFlow(train)
  return [...order(train, stages), ...stages.flatMap((stage) => isolation(train, stage)), ...supply(train, stages), ...unknown(stages)]
}
