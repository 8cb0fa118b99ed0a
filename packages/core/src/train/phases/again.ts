import { say } from '../../words'
import { comesTo } from '../graph'
import { chooseIsolation } from '../isolation'
import { stageLabel } from '../labels'
import { inOf } from '../machine/network'
import { isInline } from '../machine/state'
import { type Due, flushOf, outlets, type Plan, soaks, tanks } from '../plan'
import { surpriseOf } from '../surprises'
import type { StageNode } from '../types'
import { closingOf, type Work } from '../work'
import { closingDraft, freeLines, putLinesBack } from './bodies'
import { isolate } from './isolate'
import { airOut, closeTaps, heatersOn, lookLast, openSlowly, openUp } from './open-up'
import { powerOff, powerOn } from './power'
import { fillAndStand, withStanding } from './soak'

/** How often one joint is gone into again before it is to be renewed. */
const MOST = 3

/** Something drips: shut, relieved, looked into and closed again, before anything else; the sheet then goes on where it was. */
export function mendLeak(key: string, plan: Plan, work: Work): void {
  const said = surpriseOf(plan.answers[key])
  if (said?.id !== 'still-leaking') return
  const rounds = new Set(work.steps.flatMap(({ key }) => (key.startsWith('again-') ? [key.split('/')[0]] : []))).size
  if (rounds >= MOST) return
  const stage = stageMeant(plan, said.stage)
  if (!stage) return
  const phase = `again-${rounds + 1}`
  const isolation = chooseIsolation(plan, work.state, [stage], [])
  if (isolation === null) return
  const one: Due[] = [{ stage, task: { stage: stage.id, action: 'change' } }]
  if (outlets(plan.train).some(({ mustGoOn }) => mustGoOn)) {
    work.add(phase, 'tell', [stage.id], {
      text: say`Say that the water stops once more, for about 15 minutes`,
      why: say`A leak is mended now, not after it has run for a day.`,
    })
  }
  const isBed = plan.due.some((due) => due.stage.id === stage.id && soaks(due))
  const before = work.state.stages.get(stage.id)
  const aside = !work.state.fed.has(inOf(plan.train, stage.id))
  const stood = isBed && aside && before?.full === true && !before.flushed && !/^(second|visit)/.test(closingOf(key))
  powerOff(phase, plan, one, work)
  isolate(phase, plan, isolation, one, [], work)
  const off = new Set(work.state.apart)
  if (isInline(stage)) freeLines(phase, plan, stage, work)
  else
    work.add(phase, 'open-housing', [stage.id], {
      text: say`Open ${stageLabel(stage)} again, one hand below`,
      why: say`The cause is inside. Turning harder ruins the seal and hides it.`,
    })
  work.add(phase, 'inspect', [`${stage.id}.seal`], {
    text: say`Look for a second gasket, a nick, dirt in the groove`,
    why: say`In the order of likelihood: two gaskets, a pinched or dry seal, closed askew, a crack.`,
    tools: ['torch'],
  })
  if (!isInline(stage)) {
    work.add(phase, 'fit', [`${stage.id}.seal`], {
      text: say`Lay in a new seal`,
      why: say`One that has leaked is not trusted again.`,
      consumables: [say`housing seal`],
    })
    work.add(phase, 'grease', [`${stage.id}.seal`], {
      text: say`Grease the new seal, thinly`,
      why: say`Silicone fit for drinking water only: mineral oil swells the rubber.`,
      consumables: [say`food-grade silicone grease`],
    })
    work.add(phase, 'close-housing', [stage.id], closingDraft(plan, stage))
  } else putLinesBack(phase, plan, stage, work, off)
  closeTaps(phase, plan, work)
  if (stood) {
    // A bed that stood full is filled again, and stands as before.
    fillAndStand(`${phase}-fill`, plan, withStanding(plan, isolation, stage, work), stage, work)
    lookLast(`${phase}-last`, stage.id, work)
    return
  }
  if (isolation.bypass !== null) warnAgain(phase, isolation.bypass, work)
  openUp(phase, plan, isolation, work)
  // One whose flush is over fills with a tap running; another will be flushed, or a bed behind it is still to be run.
  const now = work.state.stages.get(stage.id)
  const bedBehind = plan.due.some(
    (due) => soaks(due) && work.state.stages.get(due.stage.id)?.flushed === false && comesTo(plan.train, stage.id, due.stage.id),
  )
  if (now?.full === false && (now.flushed || flushOf(stage) === null) && !bedBehind)
    airOut(`${phase}-air`, plan, say`What was opened again holds air: it has a way out before anybody draws.`, work)
  for (const { id } of tanks(plan.train))
    if (isolation.tanks.some((tank) => tank.id === id) && work.state.shut.has(id)) openSlowly(`${phase}-tank`, plan, id, work)
  heatersOn(phase, plan, work)
  powerOn(phase, plan, one, work)
  lookLast(`${phase}-last`, stage.id, work)
}

const warnAgain = (phase: string, bypass: string, work: Work): void =>
  void work.add(phase, 'tell', [bypass], {
    text: say`Say that the set goes back into service now`,
    why: say`Water may stop for a moment while it fills.`,
  })

const stageMeant = (plan: Plan, id: string | null): StageNode | undefined => {
  const all = plan.due.map(({ stage }) => stage).filter(({ housing }) => housing !== 'dry-slot')
  return all.find((stage) => stage.id === id) ?? all[0]
}
