import { isOwn, profileOf } from '../catalogue/own-kinds'
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
      return stage.media === 'membrane' ? 'the membrane vessel' : `the ${profileOf(stage).name} vessel`
    case 'push-fit':
    case 'threaded':
      return stage.media === 'fridge-inline' ? 'the inline cartridge' : `the ${profileOf(stage).name} body`
    case 'media-tank':
      return ['carbon-tank', 'softener', 'iron-bed', 'ph-bed'].includes(stage.media)
        ? `the ${profileOf(stage).name}`
        : `the ${profileOf(stage).name} tank`
    case 'uv-reactor':
      return stage.reactor === undefined ? 'the lamp chamber' : `the lamp chamber “${stage.reactor}”`
    case 'fridge-cartridge':
      return 'the cartridge'
    case 'dry-slot':
      return stage.media === 'chlorine-feed' ? 'the chlorine feed pump' : `the ${profileOf(stage).name} slot`
    case 'sump-small':
    case 'sump-large':
    case 'quarter-turn':
      return `housing ${stage.position}`
  }
}

const OWN_NOUN: Partial<Record<StageNode['media'], string>> = {
  membrane: 'the membrane',
  'post-carbon': 'the post carbon',
  'deionising-resin': 'the mixed-bed resin',
  'uv-lamp': 'the lamp',
  'uv-sleeve': 'the quartz sleeve',
  'air-filter': 'the air filter',
  'fridge-internal': 'the cartridge',
  'fridge-inline': 'the inline cartridge',
  'carbon-tank': 'the carbon bed',
  'iron-bed': 'the iron and sulphur bed',
  'ph-bed': 'the pH-correction bed',
  ultrafiltration: 'the ultrafiltration cartridge',
  'chlorine-feed': 'the pump tube',
}

/** The part itself: "the sediment element", "the membrane". */
export const stageNoun = (stage: StageNode): string =>
  isOwn(stage.media) ? `the ${profileOf(stage).name}` : (OWN_NOUN[stage.media] ?? `the ${profileOf(stage).name} element`)

/** The part that goes in, or goes back: "the new membrane". */
export const partNoun = (stage: StageNode, which: 'new' | 'old'): string => stageNoun(stage).replace(/^the /, `the ${which} `)

const TAPS: Record<OutletNode['use'], string> = {
  drinking: 'the drinking tap',
  house: 'a tap of the house',
  ice: 'the ice maker',
  appliance: 'the appliance’s line',
  hose: 'the hose',
}

/** What people switch a pump by. */
export function pumpLabel(train: Train, id: string): string {
  const pump = train.nodes.find((node) => node.id === id)
  const type = pump?.kind === 'pump' ? pump.type : undefined
  return type === 'well'
    ? 'the well pump'
    : type === 'booster'
      ? 'the booster pump'
      : type === 'delivery'
        ? 'the delivery pump'
        : 'the pump'
}

/** "the tap" where there is one, else by its use. */
export function tapLabel(train: Train, id: string): string {
  const fridge = train.nodes.some((node) => node.kind === 'stage' && (node.media === 'fridge-internal' || node.media === 'fridge-inline'))
  const all = train.nodes.filter((node): node is OutletNode => node.kind === 'outlet')
  const tap = all.find((node) => node.id === id)
  if (fridge && tap?.use === 'drinking') return 'the dispenser'
  return !tap || all.length === 1 ? 'the tap' : TAPS[tap.use]
}

/** A shut-off as people would find it: "the feed valve", "the tank valve", "the valve after housing 2". */
export function valveLabel(train: Train, id: string): string {
  const node = train.nodes.find((one) => one.id === id)
  if (node?.kind === 'source') return 'the main stop of the building'
  if (node?.kind === 'tank') return 'the tank valve'
  if (node?.kind === 'stage') return `the shut-off of ${stageLabel(node)}`
  const before = stagesBefore(train, id)
  const last = before.at(-1)
  const next = stagesInFlow(train).find((stage) => comesTo(train, id, stage.id))
  if (last) {
    const after = train.nodes.filter((one) => one.kind === 'valve' && stagesBefore(train, one.id).at(-1)?.id === last.id)
    return next && after.length > 1 && after.some((one) => !comesTo(train, one.id, next.id))
      ? `the valve before ${stageLabel(next)}`
      : `the valve after ${stageLabel(last)}`
  }
  const twins = train.nodes.filter((one) => one.kind === 'valve' && stagesBefore(train, one.id).length === 0)
  if (twins.length < 2) return 'the feed valve'
  const nearest = twins.filter((one) => next && comesTo(train, one.id, next.id))
  // Of two in a row the first is the main's; of two side by side each stands before its own stage.
  if (nearest.length > 1 && nearest.some((one) => one.id !== id && comesTo(train, id, one.id))) return 'the main valve'
  return nearest.length > 1 || twins.every((one) => one.id === id || comesTo(train, one.id, id)) || !next
    ? 'the feed valve'
    : `the valve before ${stageLabel(next)}`
}

const stagesBefore = (train: Train, id: string): StageNode[] => stagesInFlow(train).filter((stage) => comesTo(train, stage.id, id))

/** A line by what it ties on: "the line after housing 2", "the line to the tap". */
export function lineLabel(train: Train, line: string): string {
  const [from, to] = line.split('>').map((id) => train.nodes.find((node) => node.id === id))
  if (from?.kind === 'stage') return to?.kind === 'drain' ? `the drain line of ${stageLabel(from)}` : `the line after ${stageLabel(from)}`
  if (to?.kind === 'stage') return `the line before ${stageLabel(to)}`
  if (to?.kind === 'outlet') return `the line to ${tapLabel(train, to.id)}`
  return to?.kind === 'tank' || from?.kind === 'tank' ? 'the line of the tank' : 'the line between the tees'
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
      return 'the bypass'
    case 'heater':
      return 'the water heater'
    case 'tank':
    case 'tee':
    case 'drain':
    case 'pump':
      return `the ${node.kind}`
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
