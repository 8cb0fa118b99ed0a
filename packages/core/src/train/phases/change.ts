import { caution, say } from '../../words'
import { reactorOf } from '../graph'
import { lineLabel, partNoun, stageLabel } from '../labels'
import { isDry } from '../machine/state'
import { type Due, isWet, lineName, type Plan, soakHoursOf, soaksOutside } from '../plan'
import type { StageNode } from '../types'
import type { Work } from '../work'
import { closeBody, inspectBody, openBody, shutBody } from './bodies'

/** Bodies that can be lifted off with their set and worked on at a bench. */
export const LIFTED: readonly StageNode['housing'][] = [
  'sump-small',
  'sump-large',
  'quarter-turn',
  'membrane-vessel',
  'push-fit',
  'threaded',
]

/** The lines that tie the set of these stages to the rest, for the bench school; empty in place. */
export function benchLines(plan: Plan, due: readonly Due[]): string[] {
  if (plan.schools.place !== 'at-the-bench') return []
  const set = new Set(due.filter((one) => isWet(one) && LIFTED.includes(one.stage.housing)).map(({ stage }) => stage.id))
  return plan.train.pipes.filter(({ from, to }) => set.has(from) !== set.has(to)).map(lineName)
}

const phaseOf = (prefix: string, stage: StageNode): string => `${prefix}change-${stage.id}`

/** The lamp inside a sleeve that is due: it has to come out first, due or not. */
const lampOf = (plan: Plan, { stage }: Due): StageNode | undefined =>
  stage.media === 'uv-sleeve' ? reactorOf(plan.train, stage.id).find(({ media }) => media === 'uv-lamp') : undefined

function salt(prefix: string, stage: StageNode, work: Work): void {
  const phase = phaseOf(prefix, stage)
  work.add(phase, 'inspect', [stage.id], {
    text: say`Look into the salt: level, bridge, mush`,
    why: say`A bridge hides an empty tank: push at it with a blunt stick. Mush at the bottom stops the brine.`,
    tools: ['torch'],
  })
  work.add(phase, 'measure', [`${stage.id}`], {
    text: say`Fill in salt up to the mark and write the amount down; hardness before and after it`,
    why: say`Salt by use says how much water was softened, and when it is empty again. Hardness after it says whether it still softens.`,
    minutes: 6,
    tools: [say`hardness drops`],
    consumables: [say`softener salt`],
  })
  work.add(`${phase}-settings`, 'inspect', [stage.id], {
    text: say`Look at its settings: clock, hardness, interval; start a regeneration by hand where the water after it is hard`,
    why: say`A clock that lost the power regenerates at noon, and a hardness set years ago wastes salt or lets hardness through.`,
    minutes: 1,
  })
}

/** Its pump is off and its line relieved before anything of it is opened: solution under pressure sprays. */
function stopFeed(phase: string, stage: StageNode, work: Work): void {
  work.add(phase, 'power-off', [stage.id], {
    text: say`Switch the chlorine feed pump off and unplug it`,
    why: say`It starts with the well pump, when nobody looks.`,
    caution: caution`Chlorine solution burns skin and eyes: gloves and glasses before anything is opened.`,
  })
  work.add(phase, 'relieve', [stage.id], {
    text: say`Shut the injector’s valve and let the pressure out of the feed line, into a jug of water`,
    why: say`The line holds the pressure of the main: opened first, it sprays chlorine.`,
  })
}

function startFeed(phase: string, stage: StageNode, work: Work): void {
  work.add(phase, 'power-on', [stage.id], {
    text: say`Open the injector’s valve, plug the pump in and let it prime until no bubbles come`,
    why: say`A pump full of air feeds nothing, and nobody sees it.`,
    minutes: 2,
  })
  work.add(`${phase}-residual`, 'measure', [stage.id], {
    text: say`Measure the free chlorine at the nearest cold tap once it has run, and set the stroke by it`,
    why: say`As much as was agreed and never more than the limit where you work: the residual at the tap is what protects people.`,
    minutes: 5,
    tools: [say`chlorine strips`],
  })
}

function openDue(prefix: string, plan: Plan, one: Due, work: Work): void {
  const phase = phaseOf(prefix, one.stage)
  const lamp = lampOf(plan, one)
  if (one.stage.media === 'chlorine-feed') stopFeed(phase, one.stage, work)
  if (lamp && work.state.stages.get(lamp.id)?.element === 'old') {
    openBody(phaseOf(prefix, lamp), plan, lamp, work)
    inspectBody(phaseOf(prefix, lamp), plan, lamp, work)
  }
  if (one.stage.media === 'uv-lamp' && work.state.stages.get(one.stage.id)?.takenOut) return
  openBody(phase, plan, one.stage, work)
  inspectBody(phase, plan, one.stage, work)
}

function closeDue(prefix: string, plan: Plan, one: Due, keepOff: ReadonlySet<string>, work: Work): void {
  closeBody(phaseOf(prefix, one.stage), plan, one, work, keepOff)
  if (one.stage.media === 'chlorine-feed') startFeed(phaseOf(prefix, one.stage), one.stage, work)
  const lamp = lampOf(plan, one)
  const own = plan.due.some(({ stage }) => stage.id === lamp?.id)
  if (lamp && !own) putBack(phaseOf(prefix, lamp), plan, lamp, work)
}

/** What had to come out for another part's sake goes back as it was. */
function putBack(phase: string, plan: Plan, stage: StageNode, work: Work): void {
  work.add(phase, 'grease', [`${stage.id}.seal`], {
    text: say`Wipe the cap’s seal; a trace of grease on it, none on the glass`,
    why: say`Silicone fit for drinking water only: mineral oil swells the rubber.`,
    consumables: [say`food-grade silicone grease`],
  })
  work.add(phase, 'fit', [stage.id], {
    text: say`Put the lamp back`,
    why: say`By its ends, with clean gloves: a fingerprint burns in and dims it.`,
    consumables: [say`clean gloves`],
  })
  shutBody(phase, plan, stage, work)
}

/** The set lifted off to the bench: every line named and capped. */
function liftOff(phase: string, plan: Plan, lines: readonly string[], work: Work): void {
  const on = lines.filter((line) => !work.state.apart.has(line))
  for (const line of on) {
    const last = line === on.at(-1)
    work.add(phase, 'disconnect', [line], {
      text: say`Name, free and cap ${lineLabel(plan.train, line)}${last ? say`; then lift the set off its hooks and carry it to the bench` : ''}`,
      why: say`School: at the bench. A line without a name goes back on the wrong port. Old parts go away at once, so that none goes back in.`,
      consumables: [say`line labels`, say`line caps`],
    })
  }
}

function liftOn(phase: string, plan: Plan, lines: readonly string[], work: Work): void {
  const off = lines.filter((line) => work.state.apart.has(line))
  for (const line of off) {
    const put = say`${lineLabel(plan.train, line)} back by its name, and tug it`
    work.add(phase, 'connect', [line], {
      text: line === off[0] ? say`Hang the set back on its hooks; then put ${put}` : say`Put ${put}`,
      why: say`Inlet to inlet: a check valve or restrictor in this line stays with it.`,
    })
  }
}

/** A sleeve is done before its lamp goes back in: the lamp comes right after it. */
function lampsLast(plan: Plan, due: readonly Due[]): Due[] {
  const lampIn = (sleeve: Due): Due[] => due.filter(({ stage }) => lampOf(plan, sleeve)?.id === stage.id)
  const later = new Set(due.flatMap(lampIn))
  return due.flatMap((one) => (later.has(one) ? [] : [one, ...lampIn(one)]))
}

/**
 * Every due stage out, looked at, cleaned and renewed: one position at a time, or all out first by school; in place or at the bench. Lines
 * that are flushed through next are not put on only to be freed again.
 */
export function change(prefix: string, plan: Plan, due: readonly Due[], keepOff: ReadonlySet<string>, work: Work): void {
  const bench = benchLines(plan, due)
  liftOff(`${prefix}bench`, plan, bench, work)
  const bodies = due.filter(({ stage }) => stage.media !== 'softener')
  const inOrder = lampsLast(plan, bodies)
  if (plan.schools.order === 'one-at-a-time') {
    for (const one of inOrder) {
      openDue(prefix, plan, one, work)
      closeDue(prefix, plan, one, keepOff, work)
    }
  } else {
    for (const one of inOrder) openDue(prefix, plan, one, work)
    for (const one of inOrder) closeDue(prefix, plan, one, keepOff, work)
  }
  for (const { stage } of due) if (stage.media === 'softener') salt(prefix, stage, work)
  liftOn(`${prefix}bench`, plan, bench, work)
}

/** What soaks before it goes in, and not in its place: first of all, so that nobody waits for it with the water off. */
export function soakOutside(prefix: string, due: readonly Due[], work: Work): void {
  for (const one of due.filter(soaksOutside)) {
    const hours = soakHoursOf(one)
    const before = hours > SOAKS_AT_THE_DOOR_HOURS
    work.add(phaseOf(prefix, one.stage), 'soak', [one.stage.id], {
      to: 'vessel',
      text: before
        ? say`Look that ${partNoun(one.stage, 'new')} has stood in clean water for its hours; otherwise it is put to soak and fitted another day`
        : say`Put ${partNoun(one.stage, 'new')} to soak in a clean vessel of water; it goes in when its time is over`,
      why: before
        ? say`It soaks longer than a visit takes: put in water at the workshop, the day before.`
        : say`It soaks while the rest is done, so that the water is off for no longer.`,
      evidence: 'timer',
      hours,
      minutes: 1,
      tools: [say`clean vessel with a lid`],
    })
  }
}

/** Longer than this nobody waits for it at the visit. */
const SOAKS_AT_THE_DOOR_HOURS = 1

/** What nobody has confirmed is asked before the valve is trusted. */
export function asks(prefix: string, due: readonly Due[], work: Work): void {
  for (const { stage } of due) {
    if (stage.inletConfirmed || stage.media === 'softener' || stage.media === 'chlorine-feed') continue
    const dry = isDry(stage)
    work.add(phaseOf(prefix, stage), 'ask', [stage.id], {
      text: dry
        ? say`Which way round does ${stage.media === 'uv-lamp' ? say`the lamp` : say`the air filter`} sit? Note it before it comes out`
        : say`Find the inlet mark on ${stageLabel(stage)}: does the water come from the side the drawing says?`,
      why: dry
        ? say`It goes back the way it was.`
        : say`Nobody has confirmed which side the water comes in. A valve on the outlet side isolates nothing.`,
      evidence: 'answer',
      tools: ['torch'],
    })
  }
}
