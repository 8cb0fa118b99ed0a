import { CARBONS, type Medium } from '../catalogue/names'
import { isOwn, ownKindOf } from '../catalogue/own-kinds'
import { comesTo, isHot } from './graph'
import { edgesOf, inOf, type Joints, outOf, pressedBy, wayOut } from './machine/network'
import { stageOf } from './machine/state'
import { type Due, isFlushed, lineName, linesInto, nodesOf, type Plan, tanks, tapsByUse } from './plan'
import type { StageNode, Train } from './types'

/** What a new carbon's fines, preservative or cloud would spoil further on. */
const SPOILED: readonly Medium[] = [...CARBONS, 'membrane', 'fluoride-media', 'deionising-resin', 'remineraliser', 'ultrafiltration']
/** Of them what any first water spoils. */
const SPOILED_FIRST: readonly Medium[] = [...CARBONS, 'membrane', 'ultrafiltration']
/** Media whose first water may go on into nothing that matters. */
const SHEDS: readonly Medium[] = [...CARBONS, 'membrane', 'remineraliser', 'fluoride-media', 'iron-bed', 'ph-bed']

const sheds = (stage: StageNode): boolean => SHEDS.includes(stage.media) || (ownKindOf(stage)?.flush ?? null) !== null
/** Flushed alone: nothing behind it takes what it sheds. */
const isAlone = (stage: StageNode): boolean => stage.media === 'fluoride-media' || ownKindOf(stage)?.flush?.alone === true

/** A drain that takes a bed's own water: not the one that another stage runs to. */
export function ownDrain(train: Train, { id: bed }: StageNode): string | undefined {
  const fedByOthers = (drain: string): boolean =>
    train.pipes.some(({ from, to }) => to === drain && from !== bed && stageOf(train, from) !== undefined)
  return nodesOf(train, 'drain').find(({ id }) => !fedByOthers(id) && comesTo(train, bed, id))?.id
}

/** Where the first water of a new part goes. */
export type Way =
  | { kind: 'drain'; to: string }
  /** Through a tap; tanks on the way are kept shut meanwhile. */
  | { kind: 'tap'; to: string; tanksShut: string[] }
  /** Through the line behind it, taken off and held over the bucket. */
  | { kind: 'line'; to: string }
  /** Out of the part's own opening, into a jug: a slot inside an appliance. */
  | { kind: 'vessel'; to: 'vessel' }

const inService = (): Joints => ({ shut: new Set(), still: new Set(), apart: new Set(), bypassed: new Set() })

function spoils(stage: StageNode, met: readonly StageNode[]): boolean {
  if (isAlone(stage)) return met.length > 0
  if (stage.media === 'sediment') return met.some(({ media }) => media === 'membrane')
  if (!sheds(stage)) return false
  const spoiled = stage.media === 'carbon-block' ? SPOILED : SPOILED_FIRST
  return met.some(({ media }) => spoiled.includes(media) || isOwn(media))
}

/** How the first water of this stage is let out, the train otherwise in service; `closed` are beds it must not pass. */
export function wayOf(plan: Plan, stage: StageNode, closed: ReadonlySet<string>, bypassed: ReadonlySet<string> = new Set()): Way {
  const { train } = plan
  const joints: Joints = { ...inService(), bypassed }
  if (stage.media === 'membrane') {
    const drain = nodesOf(train, 'drain').find(({ id }) => train.pipes.some(({ from, to }) => from === stage.id && to === id))
    if (drain) return { kind: 'drain', to: drain.id }
  }
  for (const tap of tapsByUse(train)) {
    if (tap.use === 'ice' || tap.use === 'appliance') continue
    // Its taps are the appliance's own: what it sheds runs out of the line's free end.
    if (stage.media === 'fridge-inline' && tap.use === 'drinking') continue
    const way = wayOut(train, joints, stage.id, tap.id)
    if (way === null || way.slice(1).some((id) => closed.has(id)) || isHot(train, tap.id)) continue
    const met = way.slice(1).flatMap((id) => stageOf(train, id) ?? [])
    if (spoils(stage, met) || stage.media === 'membrane') continue
    const beside = tanks(train).filter(({ id }) =>
      way.some((one) => train.pipes.some(({ from, to }) => from === one && to === id) || one === id),
    )
    const through = beside.some(({ id }) => way.includes(id))
    const matters = sheds(stage) && stage.media !== 'post-carbon' && beside.length > 0
    if (matters && (through || beside.some(({ id, valve }) => !valve || plan.untrusted.has(id)))) continue
    return { kind: 'tap', to: tap.id, tanksShut: matters ? beside.map(({ id }) => id) : [] }
  }
  if (stage.housing === 'fridge-cartridge') return { kind: 'vessel', to: 'vessel' }
  const out = train.pipes.find(({ from, to }) => from === stage.id && !nodesOf(train, 'drain').some(({ id }) => id === to))
  return out ? { kind: 'line', to: lineName(out) } : { kind: 'vessel', to: 'vessel' }
}

/** Lines that must come off together so that no water reaches the open end from the other side. */
export function linesTogether(plan: Plan, line: string): string[] {
  const { train } = plan
  const off = new Set([line])
  const end = line.split('>')[1] as string
  const fed = (): boolean => {
    const joints: Joints = { ...inService(), apart: off }
    return pressedBy(
      edgesOf(train, joints),
      nodesOf(train, 'source').map(({ id }) => outOf(train, id)),
    ).has(inOf(train, end))
  }
  for (const other of linesInto(train, end)) {
    if (off.has(other) || !fed()) continue
    off.add(other)
  }
  return [...off]
}

/** One opening of the set for flushing: the lines that are off together, and what is run out of each, in order. */
export interface ApartFlush {
  main: StageNode
  lines: string[]
  runs: { stages: StageNode[]; to: string }[]
}
export interface Flushes {
  apart: ApartFlush[]
  drain: { stage: StageNode; to: string }[]
  /** Through taps once the set is closed. */
  taps: { stages: StageNode[]; to: string; tanksShut: string[] }[]
  vessel: StageNode[]
}

/** Every flush of these due stages, in the order the media demand. */
export function flushesOf(
  plan: Plan,
  due: readonly Due[],
  closed: ReadonlySet<string> = new Set(),
  bypassed: ReadonlySet<string> = new Set(),
): Flushes {
  const stages = due.filter(isFlushed).map(({ stage }) => stage)
  const ways = new Map(stages.map((stage) => [stage.id, wayOf(plan, stage, closed, bypassed)]))
  const kindOf = (stage: StageNode): Way['kind'] => (ways.get(stage.id) as Way).kind
  const flushes: Flushes = { apart: [], drain: [], taps: [], vessel: [] }
  const named = new Set<string>()
  const take = (...all: StageNode[]): void => all.forEach(({ id }) => void named.add(id))
  const behind = (stage: StageNode): StageNode[] =>
    stages.filter((one) => one.media === 'sediment' && one.id !== stage.id && !named.has(one.id) && comesTo(plan.train, one.id, stage.id))
  for (const stage of stages) {
    if (named.has(stage.id) || kindOf(stage) !== 'line') continue
    // Dirt shaken loose rides along with the next part that is run out by its line anyway.
    const rides =
      stage.media === 'sediment' &&
      stages.some((one) => one !== stage && kindOf(one) === 'line' && one.media !== 'sediment' && comesTo(plan.train, stage.id, one.id))
    if (rides) continue
    const lines = linesTogether(plan, (ways.get(stage.id) as Way).to)
    const mates = stages.filter(
      (one) => one !== stage && !named.has(one.id) && kindOf(one) === 'line' && lines.includes((ways.get(one.id) as Way).to),
    )
    const riders = behind(stage)
    const main = { stages: isAlone(stage) ? [stage] : [...riders, stage], to: lines[0] as string }
    const first = isAlone(stage) && riders.length > 0 ? [{ stages: riders, to: main.to }] : []
    take(stage, ...riders, ...mates)
    flushes.apart.push({
      main: stage,
      lines,
      runs: [...first, main, ...mates.map((one) => ({ stages: [one], to: (ways.get(one.id) as Way).to }))],
    })
  }
  // Preservative leaves by the drain side before anything behind the membrane is run with its water.
  for (const stage of stages) {
    const way = ways.get(stage.id) as Way
    const behindIt = way.kind === 'drain' ? flushes.apart.find(({ main }) => comesTo(plan.train, stage.id, main.id)) : undefined
    if (!behindIt || named.has(stage.id)) continue
    behindIt.runs.unshift({ stages: [stage], to: way.to })
    take(stage)
  }
  for (const stage of stages) {
    if (named.has(stage.id)) continue
    const way = ways.get(stage.id) as Way
    if (way.kind === 'drain') flushes.drain.push({ stage, to: way.to })
    else if (way.kind === 'vessel') flushes.vessel.push(stage)
    else if (way.kind === 'tap') {
      const same = flushes.taps.find(
        ({ stages: others, to, tanksShut }) =>
          !isAlone(stage) && !others.some(isAlone) && to === way.to && tanksShut.join() === way.tanksShut.join(),
      )
      if (same) same.stages.push(stage)
      else flushes.taps.push({ stages: [stage], to: way.to, tanksShut: way.tanksShut })
    }
  }
  return flushes
}
