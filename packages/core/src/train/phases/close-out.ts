import { CARBONS } from '../../catalogue/names'
import { isOwn, profileOf } from '../../catalogue/own-kinds'
import { caution, say } from '../../words'
import { comesTo, stagesInFlow } from '../graph'
import { stageLabel, stageNoun } from '../labels'
import { type Due, flushOf, isWet, outlets, type Plan, soakHoursOf, soaks, tanks } from '../plan'
import type { SheetHold, StageNode } from '../types'
import type { Work } from '../work'
import { bypassRound } from './soak'

/** A tank of this size behind a membrane takes about this long to fill once. */
const HOURS_PER_TANK = 3
const ICE_HOURS = 24
const LOW_FLOW_HOURS = 72
/** What is opened with water in it and stands between people and germs. */
const BARRIERS: readonly StageNode['media'][] = ['uv-sleeve', 'ultrafiltration']
/** The longest it should wait for that; a disinfection that is proved lifts it before. */
const UNTIL_DISINFECTED_HOURS = 14 * 24
const FILLS_TANK = ['membrane', 'post-carbon', 'remineraliser', 'ultrafiltration']

/** Its first water comes into storage: it makes what is stored, or is one of the firm's own with no membrane between. */
function fillsTank({ train }: Plan, stage: StageNode): boolean {
  if (!isOwn(stage.media)) return FILLS_TANK.includes(stage.media)
  const behind = stagesInFlow(train).filter((one) => one.id !== stage.id && comesTo(train, stage.id, one.id))
  return tanks(train).some(({ id }) => comesTo(train, stage.id, id)) && !behind.some(({ media }) => media === 'membrane')
}

/** What the customer must hold off from after this work, and for how long; `goesOn` where water goes on past a bed while it soaks. */
export function holdsAfter(plan: Plan, goesOn: boolean): SheetHold[] {
  const { train, due } = plan
  const holds: SheetHold[] = []
  const bed = due.find(soaks)
  const shut = goesOn ? undefined : due.find((one) => soaks(one) && bypassRound(plan, one.stage) === null)
  if (shut) {
    holds.push({
      kind: 'do-not-use',
      hours: soakHoursOf(shut),
      text: caution`Draw no water while the new bed of ${stageLabel(shut.stage)} soaks: no bypass goes round it. We open it again at the second visit.`,
    })
  }
  if (bed) {
    holds.push({
      kind: 'low-flow',
      hours: LOW_FLOW_HOURS,
      text: caution`Low flow only: one tap, a toilet or a shower at a time; no washing machine, dishwasher or bath. Loose fines block aerators.`,
    })
  }
  const barrier = due.find(({ stage }) => BARRIERS.includes(stage.media))
  if (plan.unchlorinated && barrier) {
    holds.push({
      kind: 'boil-or-bottled',
      hours: UNTIL_DISINFECTED_HOURS,
      text: caution`Boil drinking water, or take bottled, until the line behind ${stageLabel(barrier.stage)} is disinfected: it stood open, and nothing else here kills germs.`,
    })
  }
  const filling = due.filter(({ stage, task }) => fillsTank(plan, stage) && task.action !== 'clean')
  if (tanks(train).length > 0 && filling.length > 0) {
    const count = filling.some(({ stage }) => stage.media === 'post-carbon') ? 2 : 1
    const text =
      count === 2
        ? caution`Let the tank fill and pour it away twice before drinking.`
        : caution`Let the tank fill once and pour it away before drinking.`
    holds.push({ kind: 'first-tank', hours: count * HOURS_PER_TANK, text })
  }
  const ice = outlets(train).filter(({ use }) => use === 'ice')
  const sheds = ({ stage }: Due): boolean => CARBONS.includes(stage.media) || (isOwn(stage.media) && flushOf(stage) !== null)
  if (due.some((one) => sheds(one) && ice.some(({ id }) => comesTo(train, one.stage.id, id))))
    holds.push({ kind: 'ice', hours: ICE_HOURS, text: caution`Throw away the ice of the first 24 hours.` })
  return holds
}

function mark(phase: string, { stage, task }: Due, work: Work): void {
  if (stage.media === 'softener') return
  const again = task.action === 'wash' || task.action === 'clean'
  const place =
    stage.housing === 'uv-reactor'
      ? say`${stageLabel(stage)}, for ${stageNoun(stage)}`
      : stage.housing === 'dry-slot'
        ? stage.media === 'chlorine-feed'
          ? say`the solution tank`
          : stageNoun(stage)
        : stageLabel(stage)
  work.add(phase, 'mark', [stage.id], {
    text: say`Write today’s date${again ? say` and “${task.action === 'wash' ? say`washed` : say`cleaned`}”` : ''} on ${place}`,
    why: say`Whoever stands here next sees it without a phone.`,
    consumables: ['marker'],
  })
}

function reset(phase: string, { stage }: Due, work: Work): void {
  if (!stage.monitored) return
  const appliance = stage.housing === 'fridge-cartridge' || stage.housing === 'dry-slot'
  work.add(phase, 'reset', [stage.id], {
    text: appliance
      ? say`Reset the appliance’s reminder for the ${stage.housing === 'dry-slot' ? say`air filter` : say`water`}: hold its button`
      : say`Reset the monitor for the ${profileOf(stage).name}`,
    why: say`A reminder that nobody reset counts from the wrong day. Water and air are reset apart.`,
  })
}

/** What a hold's step says beside its own words. */
const HOLD_WHY: Partial<Record<SheetHold['kind'], string>> = {
  get 'low-flow'() {
    return say`The new bed settles with small flows; a big draw carries fines into every aerator.`
  },
  get ice() {
    return say`The first ice is made of the cartridge’s first water.`
  },
  get 'boil-or-bottled'() {
    return say`Disinfecting it is a job of its own, on another day where acid was used today. It is lifted once that is proved.`
  },
  get 'do-not-use'() {
    return say`A bed that is run before it has soaked is spoiled.`
  },
}

/** Monitor, mark, readings, record, and the customer told: the reminder for next time is only as good as this. */
export function closeOut(prefix: string, plan: Plan, due: readonly Due[], holds: readonly SheetHold[], work: Work): void {
  const phase = `${prefix}close-out`
  for (const one of due) {
    mark(phase, one, work)
    reset(phase, one, work)
  }
  const wet = plan.due.some(isWet)
  // A bed that soaks is read off when it has been run: at its second visit.
  const later = prefix === '' && due.length > 0 && due.every(soaks)
  if (!later) measureAgain(phase, plan, wet, work)
  work.add(phase, 'record', [plan.tap], {
    text: say`Check the record: parts, positions, readings`,
    why: say`What is not written down is not known next time.`,
  })
  for (const hold of holds) {
    work.add(phase, 'hold', [plan.tap], {
      to: hold.kind,
      text: hold.text,
      why: HOLD_WHY[hold.kind] ?? say`Preservative and fines end in the first water; it is safe to pour down the sink, not to drink.`,
    })
  }
  work.add(phase, 'tell', [plan.tap], {
    text:
      holds.length > 0
        ? say`Tell the customer what to hold off from, and until when`
        : say`Tell the customer what was done and when you come next`,
    why: say`A hold that nobody was told of protects nobody.`,
  })
}

function measureAgain(phase: string, plan: Plan, wet: boolean, work: Work): void {
  work.add(phase, 'measure', [plan.tap], {
    text: wet ? say`Measure again: untreated and treated` : say`Read again what you read before`,
    why: say`The first readings of the new part are what later ones are compared with. Sample after it has run a while.`,
    ...(wet ? { evidence: 'reading' as const } : {}),
    tools: [say`TDS meter`],
  })
}
