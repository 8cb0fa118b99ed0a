import type { JobOutlet, JobPlan } from '../../disinfection/plan'
import { caution, say } from '../../words'
import type { JobDose, JobFigures } from '../figures'
import { isOwnUnit, storedIsFit } from '../schools'
import { doseSteps, runOutlet, spreadEnd } from './dose'
import { flushSteps } from './flush'
import { ready } from './ready'
import { heaterBy, ofTrain } from './trains'
import { type Guarded, type JobKnown, type JobStep, step } from './types'

export { type Guarded, JOB_PHASES, type JobHold, type JobKnown, type JobPhase, type JobStep, type StepValue } from './types'

/** The household's last word from us until the result; none where nobody takes a sample. */
function lastHold(plan: JobPlan, { chemicals }: JobKnown): JobStep[] {
  if (plan.reason === 'flood' && chemicals !== false)
    return [
      step('back', 'hold', {
        kind: 'hold',
        hold: 'chemicals',
        text: caution`Tell the household: bottled water only, for drinking, cooking, teeth and infants. Boiling does not help`,
        why: say`Chemicals cannot be ruled out after this flood. Chlorine and boiling do not take them out: the laboratory has to look for them as well as for germs.`,
      }),
    ]
  if (!plan.sample) return []
  return [
    step('back', 'hold', {
      kind: 'hold',
      hold: 'boil-or-bottled',
      text: say`Tell the household: boiled or bottled water until the laboratory’s result is in`,
      why: say`No chlorine in the tap says nothing about germs yet: the sample does.`,
    }),
  ]
}

/**
 * The steps of a job for dose day and flush day, in their order: protect, dose, outlets furthest first, cold then hot, the second dose
 * before the hot ones; then flush by outlet, and back to service from the lists made when things were shut. Deterministic.
 */
export function jobSteps(plan: JobPlan, figures: JobFigures, guarded: readonly Guarded[], known: JobKnown = {}): JobStep[] {
  const [first, second] = figures.doses as [JobDose, JobDose | undefined]
  const run = (side: JobOutlet['side']): JobStep[] =>
    figures.arrivals.filter(({ outlet }) => outlet.side === side).map(({ outlet, minutes }) => runOutlet(outlet, minutes))
  return [
    ...ready(plan, figures, known),
    ...guarded.flatMap((one) => ofTrain('protect', one, one.protection.before)),
    ...heaterBy(plan, guarded, 'protect'),
    ...doseSteps(plan, figures, first, guarded),
    ...run('cold'),
    ...(second ? doseSteps(plan, figures, second, guarded) : []),
    ...run('hot'),
    ...spreadEnd(plan, guarded),
    ...flushSteps(plan, figures),
    ...guarded.flatMap((one) => ofTrain('back', one, one.protection.after)),
    ...tanksOut(plan, guarded),
    ...heaterBy(plan, guarded, 'back'),
    step('back', 'lamp', {
      text: say`Lamp, monitors and tags: lamp lit, monitors reset, dates on what is new, no tag left hanging`,
      why: say`Every bypass and shut-off that was moved is on the list above: none may be forgotten.`,
    }),
    ...lastHold(plan, known),
  ]
}

/** Where germs or a flood were in the water, what a unit's tank held from before goes to waste. */
const tanksOut = (plan: JobPlan, guarded: readonly Guarded[]): JobStep[] =>
  isOwnUnit(plan.targets) || storedIsFit(plan.reason)
    ? []
    : guarded.flatMap(({ systemId, systemName, protection }) =>
        protection.way === 'shut-off' && protection.hasTank
          ? [
              step('back', `${systemId}/tank-out`, {
                text: say`Let the unit’s tank run out at its tap, to waste, before anybody drinks from it`,
                why: say`It was filled before the disinfection, from the water that was found wanting. The unit itself is disinfected as a job of its own.`,
                system: systemName,
              }),
            ]
          : [],
      )
