import { MEDIA_PROFILES } from '../../catalogue/media-profiles'
import { stageLabel, stageNoun } from '../labels'
import { lineAfter, lineBefore, type Plan, type StepList } from '../plan'
import type { StageNode, Task } from '../types'

type Due = { stage: StageNode; task: Task }

const ENDS: Record<NonNullable<StageNode['endUp']>, string> = {
  washer: 'washer end towards the head',
  arrow: 'the end marked with the arrow up, along the flow',
  either: 'either end up',
}

const isLine = ({ housing }: StageNode): boolean => housing === 'push-fit' || housing === 'threaded'

function ask(stage: StageNode, list: StepList): void {
  if (stage.inletConfirmed) return
  list.add(`change-${stage.id}`, 'ask', [stage.id], {
    text: `Find the inlet mark on ${stageLabel(stage)}: is the shut valve on that side?`,
    why: 'Nobody has confirmed which side the water comes in. A valve on the outlet side isolates nothing.',
    evidence: 'answer',
    tools: ['torch'],
  })
}

function openLines(plan: Plan, stage: StageNode, list: StepList): void {
  for (const line of [lineBefore(plan, stage), lineAfter(plan, stage)]) {
    list.add(`change-${stage.id}`, 'disconnect', [line], {
      text: line.startsWith(stage.id) ? `Free the line after ${stageLabel(stage)}` : `Free the line before ${stageLabel(stage)}`,
      why: 'Press the collet flat and pull the tube straight; name the tube, so that it goes back where it was.',
    })
  }
}

function open(plan: Plan, { stage }: Due, list: StepList): void {
  const phase = `change-${stage.id}`
  if (isLine(stage)) {
    openLines(plan, stage, list)
  } else {
    if (stage.housing === 'sump-large' && (stage.drainCocks ?? 0) > 0) {
      list.add(phase, 'drain', [`${stage.id}.cock`], {
        to: 'vessel',
        text: `Drain ${stageLabel(stage)} by its cock`,
        why: 'Full it weighs over 10 kg; empty it comes down in one hand.',
        minutes: 2,
      })
    }
    list.add(phase, 'loosen', [stage.id], {
      text: stage.housing === 'membrane-vessel' ? 'Loosen the cap of the membrane vessel' : `Loosen ${stageLabel(stage)} with the wrench`,
      why: 'A little first: if water presses out, close it again and relieve once more.',
      caution: 'Stop if it sprays. The section is not relieved.',
      tools: ['housing wrench'],
    })
    list.add(phase, 'open-housing', [stage.id], {
      text: stage.housing === 'membrane-vessel' ? 'Take the cap off' : `Unscrew ${stageLabel(stage)}, straight down, one hand below`,
      why: 'It is full to the brim and heavier than it looks.',
    })
  }
  list.add(phase, 'take-out', [stage.id], {
    text: `Take ${stageNoun(stage)} out`,
    why:
      stage.media === 'membrane'
        ? 'Pull at the stub with pliers, straight; it may need levering by its seal.'
        : 'Set it upright in the tray: what it shows is looked at next.',
    tools: stage.media === 'membrane' ? ['pliers'] : [],
  })
  list.add(phase, 'inspect', [stage.id], {
    text: 'Look before you throw it away',
    why: isLine(stage)
      ? 'What comes out of it decides about the next part and the next interval. Look at the tube ends for scores.'
      : 'What is found decides about the next part and the next interval. Is an old gasket still in the sump, the head or on the element’s ends?',
    evidence: 'finding',
    minutes: 2,
    tools: ['torch'],
  })
}

function close(plan: Plan, { stage, task }: Due, list: StepList): void {
  const phase = `change-${stage.id}`
  const washing = task.action === 'wash'
  if (!isLine(stage)) {
    list.add(phase, 'wash', [stage.id], {
      text: washing
        ? 'Wash the element and the sump'
        : stage.housing === 'membrane-vessel'
          ? 'Rinse the vessel and wipe its seat'
          : `Wash ${stageLabel(stage)} and wipe the head`,
      why: washing
        ? 'Fingers along the pleats; stains are fine, a tear rejects it. No soap left behind.'
        : 'Slime left behind seeds the new element. Mild detergent, rinsed until nothing foams.',
      minutes: 3,
      consumables: ['mild detergent', 'clean cloth'],
    })
    const seal = `${stage.id}.seal`
    if (plan.schools.seals === 'new') {
      list.add(phase, 'fit', [seal], {
        text: 'Lay in a new seal',
        why: 'School: new seals at every change. Lift the old one with a blunt tool and clear the groove.',
        consumables: ['housing seal'],
      })
    }
    list.add(phase, 'grease', [seal], {
      text: plan.schools.seals === 'new' ? 'Grease the new seal, thinly' : 'Feel the seal for nicks, clean it, grease it thinly',
      why: 'Silicone fit for drinking water only: mineral oil swells the rubber. A nicked seal is replaced.',
      consumables: ['food-grade silicone grease'],
    })
  }
  list.add(phase, 'fit', [stage.id], {
    text: `${washing ? 'Put the washed element back' : `Fit the new part: ${MEDIA_PROFILES[stage.media].name}`}, ${ENDS[stage.endUp ?? 'either']}`,
    why:
      stage.media === 'membrane'
        ? 'Grease its O-rings, push until it seats with a jolt. No thread tape in the bore.'
        : 'Read the part number before it is wet, look into the bore for a packet, and centre it on the spigot.',
    consumables: washing ? [] : [`part for position ${stage.position}`],
  })
  if (isLine(stage)) {
    for (const line of [lineBefore(plan, stage), lineAfter(plan, stage)]) {
      list.add(phase, 'connect', [line], {
        text: line.startsWith(stage.id) ? 'Push the outlet tube home and tug it' : 'Push the inlet tube home and tug it',
        why: 'Past the first stop; a tube that only reaches the collet blows out under pressure. Flow arrow along the water.',
      })
    }
    return
  }
  const quarter = plan.schools.closing === 'hand-and-quarter-turn' && stage.housing === 'sump-large'
  list.add(phase, 'close-housing', [stage.id], {
    text: `Close ${stageLabel(stage)} by hand${quarter ? ', then up to a quarter turn with the wrench' : ''}`,
    why: 'As tight as it will go ruins the seal and the next opening.',
    ...(quarter ? { tools: ['housing wrench'] } : {}),
  })
}

/** Every due stage out, looked at, cleaned and renewed: one position at a time, or all out first by school. */
export function change(plan: Plan, list: StepList): void {
  for (const { stage } of plan.due) ask(stage, list)
  if (plan.schools.order === 'one-at-a-time') {
    for (const due of plan.due) {
      open(plan, due, list)
      close(plan, due, list)
    }
    return
  }
  for (const due of plan.due) open(plan, due, list)
  for (const due of plan.due) close(plan, due, list)
}
