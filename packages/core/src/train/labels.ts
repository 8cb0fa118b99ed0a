import { isOwn, profileOf } from '../catalogue/own-kinds'
import { say } from '../words'
import { comesTo, stagesInFlow } from './graph'
import type { OutletNode, StageNode, Train } from './types'

/** What people call the body a stage sits in: "housing 2", "the membrane vessel", of twins "carbon tank 3". */
export const stageLabel = (stage: StageNode): string =>
  stage.twin ? `${bodyLabel(stage).replace(/^the /, '')} ${stage.position}` : bodyLabel(stage)

/** The train with bodies marked that would be called the same: each is told by its position. */
export function withTwins(train: Train): Train {
  const bodies = train.nodes.filter((node): node is StageNode => node.kind === 'stage' && node.housing !== 'uv-reactor')
  const isTwin = (stage: StageNode): boolean => bodies.some((one) => one.id !== stage.id && bodyLabel(one) === bodyLabel(stage))
  if (!bodies.some(isTwin)) return train
  return {
    ...train,
    nodes: train.nodes.map((node) => (node.kind === 'stage' && bodies.includes(node) && isTwin(node) ? { ...node, twin: true } : node)),
  }
}

function bodyLabel(stage: StageNode): string {
  switch (stage.housing) {
    case 'membrane-vessel':
      return stage.media === 'membrane' ? say`the membrane vessel` : say`the ${profileOf(stage).name} vessel`
    case 'push-fit':
    case 'threaded':
      return stage.media === 'fridge-inline' ? say`the inline cartridge` : say`the ${profileOf(stage).name} body`
    case 'media-tank':
      return ['carbon-tank', 'softener', 'iron-bed', 'ph-bed'].includes(stage.media)
        ? say`the ${profileOf(stage).name}`
        : say`the ${profileOf(stage).name} tank`
    case 'uv-reactor':
      return stage.reactor === undefined ? say`the lamp chamber` : say`the lamp chamber “${stage.reactor}”`
    case 'fridge-cartridge':
      return say`the cartridge`
    case 'dry-slot':
      return stage.media === 'chlorine-feed' ? say`the chlorine feed pump` : say`the ${profileOf(stage).name} slot`
    case 'sump-small':
    case 'sump-large':
    case 'quarter-turn':
      return say`housing ${stage.position}`
  }
}

const OWN_NOUN: Partial<Record<StageNode['media'], string>> = {
  get membrane() {
    return say`the membrane`
  },
  get 'post-carbon'() {
    return say`the post carbon`
  },
  get 'deionising-resin'() {
    return say`the mixed-bed resin`
  },
  get 'uv-lamp'() {
    return say`the lamp`
  },
  get 'uv-sleeve'() {
    return say`the quartz sleeve`
  },
  get 'air-filter'() {
    return say`the air filter`
  },
  get 'fridge-internal'() {
    return say`the cartridge`
  },
  get 'fridge-inline'() {
    return say`the inline cartridge`
  },
  get 'carbon-tank'() {
    return say`the carbon bed`
  },
  get 'iron-bed'() {
    return say`the iron and sulphur bed`
  },
  get 'ph-bed'() {
    return say`the pH-correction bed`
  },
  get ultrafiltration() {
    return say`the ultrafiltration cartridge`
  },
  get 'chlorine-feed'() {
    return say`the pump tube`
  },
}

/** The part itself: "the sediment element", "the membrane". */
export const stageNoun = (stage: StageNode): string =>
  isOwn(stage.media) ? say`the ${profileOf(stage).name}` : (OWN_NOUN[stage.media] ?? say`the ${profileOf(stage).name} element`)

/** The part that goes in, or goes back: "the new membrane". */
export const partNoun = (stage: StageNode, which: 'new' | 'old'): string => stageNoun(stage).replace(/^the /, `the ${which} `)

const TAPS: Record<OutletNode['use'], string> = {
  get drinking() {
    return say`the drinking tap`
  },
  get house() {
    return say`a tap of the house`
  },
  get ice() {
    return say`the ice maker`
  },
  get appliance() {
    return say`the appliance’s line`
  },
  get hose() {
    return say`the hose`
  },
}

/** What people switch a pump by. */
export function pumpLabel(train: Train, id: string): string {
  const pump = train.nodes.find((node) => node.id === id)
  const type = pump?.kind === 'pump' ? pump.type : undefined
  return type === 'well'
    ? say`the well pump`
    : type === 'booster'
      ? say`the booster pump`
      : type === 'delivery'
        ? say`the delivery pump`
        : say`the pump`
}

/** "the tap" where there is one, else by its use. */
export function tapLabel(train: Train, id: string): string {
  const fridge = train.nodes.some((node) => node.kind === 'stage' && (node.media === 'fridge-internal' || node.media === 'fridge-inline'))
  const all = train.nodes.filter((node): node is OutletNode => node.kind === 'outlet')
  const tap = all.find((node) => node.id === id)
  if (fridge && tap?.use === 'drinking') return say`the dispenser`
  return !tap || all.length === 1 ? say`the tap` : TAPS[tap.use]
}

/** A shut-off as people would find it: "the feed valve", "the tank valve", "the valve after housing 2". */
export function valveLabel(train: Train, id: string): string {
  const node = train.nodes.find((one) => one.id === id)
  if (node?.kind === 'source') return say`the main stop of the building`
  if (node?.kind === 'tank') return say`the tank valve`
  if (node?.kind === 'stage') return say`the shut-off of ${stageLabel(node)}`
  const before = stagesBefore(train, id)
  const last = before.at(-1)
  const next = stagesInFlow(train).find((stage) => comesTo(train, id, stage.id))
  if (last) {
    const after = train.nodes.filter((one) => one.kind === 'valve' && stagesBefore(train, one.id).at(-1)?.id === last.id)
    return next && after.length > 1 && after.some((one) => !comesTo(train, one.id, next.id))
      ? say`the valve before ${stageLabel(next)}`
      : say`the valve after ${stageLabel(last)}`
  }
  const twins = train.nodes.filter((one) => one.kind === 'valve' && stagesBefore(train, one.id).length === 0)
  if (twins.length < 2) return say`the feed valve`
  const nearest = twins.filter((one) => next && comesTo(train, one.id, next.id))
  // Of two in a row the first is the main's; of two side by side each stands before its own stage.
  if (nearest.length > 1 && nearest.some((one) => one.id !== id && comesTo(train, id, one.id))) return say`the main valve`
  return nearest.length > 1 || twins.every((one) => one.id === id || comesTo(train, one.id, id)) || !next
    ? say`the feed valve`
    : say`the valve before ${stageLabel(next)}`
}

const stagesBefore = (train: Train, id: string): StageNode[] => stagesInFlow(train).filter((stage) => comesTo(train, stage.id, id))

/** A line by what it ties on: "the line after housing 2", "the line to the tap". */
export function lineLabel(train: Train, line: string): string {
  const [from, to] = line.split('>').map((id) => train.nodes.find((node) => node.id === id))
  if (from?.kind === 'stage')
    return to?.kind === 'drain' ? say`the drain line of ${stageLabel(from)}` : say`the line after ${stageLabel(from)}`
  if (to?.kind === 'stage') return say`the line before ${stageLabel(to)}`
  if (to?.kind === 'outlet') return say`the line to ${tapLabel(train, to.id)}`
  return to?.kind === 'tank' || from?.kind === 'tank' ? say`the line of the tank` : say`the line between the tees`
}

/** What people call a node: "housing 2", "the feed valve", "the tap"; what has no name of its own by what it is. */
export function nodeLabel(train: Train, id: string): string {
  const node = train.nodes.find((one) => one.id === id)
  switch (node?.kind) {
    case 'stage':
      return stageLabel(node)
    case 'outlet':
      return tapLabel(train, id)
    case 'valve':
    case 'source':
      return valveLabel(train, id)
    case 'bypass':
      return say`the bypass`
    case 'heater':
      return say`the water heater`
    case 'tank':
    case 'tee':
    case 'drain':
    case 'pump':
      return say`the ${node.kind}`
    default:
      return id
  }
}

/** A text with the ids of nodes in it, as people would say it. */
export const inWords = (train: Train, text: string): string =>
  train.nodes
    .map(({ id }) => id)
    .sort((a, b) => b.length - a.length)
    .reduce(
      (said, id) =>
        said.replace(new RegExp(`(?<![\\w-])${id.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}(?![\\w-])`, 'g'), nodeLabel(train, id)),
      text,
    )
