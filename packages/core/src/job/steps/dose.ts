import type { JobOutlet, JobPlan } from '../../disinfection/plan'
import { caution, say } from '../../words'
import { BACK_CAUTION, GRANULES, HAZARDS, NEVER_ENTER, WELL_POWER } from '../cautions'
import type { JobDose, JobFigures } from '../figures'
import { isOwnUnit, isTank, isWell } from '../schools'
import { ofTrain } from './trains'
import { type Guarded, type JobStep, step } from './types'

/** What goes into one bucket: the whole dose, or one part of it with one part of the fill. */
const mixed = (id: string, amount: number, plan: JobPlan, figures: JobFigures): JobStep =>
  step('dose', `${id}-mix`, {
    text: say`{water} of water into the bucket first, then {amount} of ${plan.productName}`,
    why:
      plan.product.kind === 'solid'
        ? caution`Dissolved first; never granules into a well or a tank.`
        : say`Water first: nothing splashes up strong.`,
    caution: plan.product.kind === 'solid' ? GRANULES() : HAZARDS(),
    values: { water: { kind: 'litres', value: figures.bucketL }, amount: { kind: 'amount', value: amount } },
  })

const opened = (again: boolean): JobStep[] => [
  step('dose', again ? 'hot-power-off' : 'power-off', {
    text: again
      ? say`Pump’s power off, locked and tagged again, before the cap comes off for the second dose`
      : say`Pump’s power off, locked and tagged, before the cap is opened`,
    why: caution`The wires in the cap carry mains.`,
    caution: WELL_POWER(),
  }),
  step('dose', again ? 'hot-cap' : 'cap', {
    text: again ? say`Cap off, wires set aside` : say`Cap off, wires set aside; look at seal, screen and casing`,
    why: again
      ? say`Somebody stands by while the shaft is open.`
      : say`A cap that lets insects or rain in is the usual cause. Somebody stands by while the shaft is open.`,
    caution: NEVER_ENTER(),
  }),
]

const recirculated = (id: string, minutes: number): JobStep[] => [
  step('dose', id === 'hot' ? 'hot-power-on' : 'power-on', {
    text: say`Hose from an outside tap into the casing, wires secured; then power on`,
    why: say`The bottom of the column is reached last: a minute or two of mixing is not enough.`,
    caution: `${WELL_POWER()} ${BACK_CAUTION()}`,
  }),
  step('dose', `${id}-round`, {
    kind: 'clock',
    text: say`Recirculate {minutes}, the hose going round the walls`,
    why: say`One turnover of the standing water, or ten minutes, whichever is longer.`,
    minutes,
    values: { minutes: { kind: 'minutes', value: minutes } },
  }),
  step('dose', id === 'hot' ? 'hot-shut' : 'well-shut', {
    text: say`Power off and locked; hose out, cap laid on; then power on for the taps`,
    why: say`You leave the shaft for the house: nothing falls in, nobody either, and no hose is left to draw back.`,
    caution: WELL_POWER(),
  }),
]

function wellDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  const again = dose.id === 'hot'
  const id = again ? 'hot' : 'well'
  return [
    ...opened(again),
    mixed(id, dose.amount, plan, figures),
    step('dose', `${id}-pour`, {
      kind: 'dose',
      text: again ? say`The second dose, for the hot side: pour it round the casing` : say`Pour it round the casing, along the walls`,
      why: again
        ? say`What the cold side drew is gone from the well: the hot side gets the same again.`
        : say`The walls above the water want it as well.`,
      dose: { id: dose.id, amount: dose.amount },
    }),
    ...(figures.recirculateMin === null ? [] : recirculated(id, figures.recirculateMin)),
    ...(!again && plan.secondDay === true
      ? [
          step('dose', 'second-day', {
            text: say`The pump rests overnight. Next day: strip at the entry, recirculate ten minutes more, then the outlets`,
            why: say`Mixing took the pump over two hours: outlets and contact begin rested, on the second day. The hold stays on.`,
          }),
        ]
      : []),
  ]
}

function tankDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  const amount = dose.amount / dose.parts
  return Array.from({ length: dose.parts }, (_, index) => index + 1).flatMap((part) => [
    mixed(part === 1 ? 'tank' : `tank-${part}`, amount, plan, figures),
    step('dose', `tank-${part}`, {
      kind: 'dose',
      text: say`Part ${part} of ${dose.parts}: {amount}, thinned, in with this part of the fill, {litres}`,
      why: say`A part with each part of the fill, so that it mixes; the fill is metered.`,
      ...(part === 1 ? { caution: NEVER_ENTER() } : {}),
      values: { amount: { kind: 'amount', value: amount }, litres: { kind: 'litres', value: dose.volumeL / dose.parts } },
      dose: { id: dose.id, amount },
    }),
  ])
}

function pipeDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  const id = dose.id === 'hot' ? 'hot' : 'pipes'
  return [
    step('dose', `${id}-way`, {
      kind: 'choice',
      text: dose.id === 'hot' ? say`Way in for the hot side’s dose` : say`Way in for the dose`,
      why: say`Whatever it goes through carries it: backflow protection stands between it and the mains.`,
      caution: BACK_CAUTION(),
      options: [
        { id: 'housing', text: say`An emptied housing` },
        { id: 'suction', text: say`Pump’s suction from a bucket` },
        { id: 'hose', text: say`The fill hose` },
      ],
    }),
    mixed(id, dose.amount, plan, figures),
    step('dose', `${id}-in`, {
      kind: 'dose',
      text: say`{amount}, thinned, goes in while a tap runs slowly`,
      why: say`It follows the water that leaves.`,
      values: { amount: { kind: 'amount', value: dose.amount } },
      dose: { id: dose.id, amount: dose.amount },
    }),
  ]
}

/** A unit on its own: measured into an empty housing that stands open and isolated, closed with it, and only then water again. */
function unitDose(plan: JobPlan, figures: JobFigures, dose: JobDose, guarded: readonly Guarded[]): JobStep[] {
  const cup = guarded.find(({ protection }) => protection.dosedIn !== null)
  if (!cup) return pipeDose(plan, figures, dose)
  return [
    step('dose', 'unit-in', {
      kind: 'dose',
      text: say`{amount} into the open housing, half full of clean water; stir it, then fill up to two fingers under the rim`,
      why: say`The feed is shut, everything is out: measured into standing water it splashes nobody, and the water that follows carries it through.`,
      caution: plan.product.kind === 'solid' ? GRANULES() : HAZARDS(),
      values: { amount: { kind: 'amount', value: dose.amount } },
      dose: { id: dose.id, amount: dose.amount },
      system: cup.systemName,
    }),
    ...guarded.flatMap((one) => ofTrain('dose', one, one.protection.during)),
  ]
}

export function doseSteps(plan: JobPlan, figures: JobFigures, dose: JobDose, guarded: readonly Guarded[]): JobStep[] {
  if (isOwnUnit(plan.targets)) return unitDose(plan, figures, dose, guarded)
  if (isWell(plan.targets)) return wellDose(plan, figures, dose)
  if (isTank(plan.targets) && dose.id !== 'hot') return tankDose(plan, figures, dose)
  return pipeDose(plan, figures, dose)
}

export const runOutlet = (outlet: JobOutlet, minutes: number): JobStep =>
  step('spread', `out-${outlet.id}`, {
    kind: 'outlet',
    text: say`${outlet.name}: run it until a strip shows the dose`,
    why: say`Expected after {minutes} at its flow${outlet.assumed ? say`, as far as the pipe was guessed` : ''}. The nose goes blind after a few minutes: smell alone does not confirm it.`,
    values: { minutes: { kind: 'minutes', value: minutes } },
    outlet,
  })

/** What closes the dose day once the last outlet has it. */
export function spreadEnd(plan: JobPlan, guarded: readonly Guarded[]): JobStep[] {
  if (isOwnUnit(plan.targets))
    return guarded.some(({ protection }) => protection.hasTank)
      ? [
          step('spread', 'unit-tank', {
            text: say`Shut the tap and let the tank fill with the dose`,
            why: say`The tank is disinfected with the unit: what stands in it now is not for drinking.`,
          }),
        ]
      : []
  if (!isWell(plan.targets)) return []
  return [
    step('spread', 'rinse-open', {
      text: say`Power off and locked, cap off; hose in, wires secured, then power on`,
      why: say`The upper casing has drained meanwhile: its walls are wetted once more.`,
      caution: `${WELL_POWER()} ${NEVER_ENTER()}`,
    }),
    step('spread', 'rinse', {
      text: say`Rinse the casing walls down once more, all the way round`,
      why: say`What drained off the walls above the water takes germs down again.`,
    }),
    step('spread', 'rinse-close', {
      text: say`Power off and locked; hose out of the well, cap on and sealed; then power on`,
      why: say`A hose left in a well carries back what it lies in.`,
      caution: BACK_CAUTION(),
    }),
  ]
}
