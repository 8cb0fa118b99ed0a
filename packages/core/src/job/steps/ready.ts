import type { JobPlan } from '../../disinfection/plan'
import { caution, say } from '../../words'
import { contactAsked } from '../asked'
import { GRANULES, HAZARDS, NEVER_ENTER } from '../cautions'
import type { JobFigures } from '../figures'
import { isOwnUnit, isTank, storedIsFit } from '../schools'
import { type JobKnown, type JobStep, step } from './types'

/** Before anything is opened. */
export function ready(plan: JobPlan, figures: JobFigures, known: JobKnown): JobStep[] {
  const own = isOwnUnit(plan.targets)
  return [
    step('ready', 'guard', {
      text: say`Gloves, goggles, old clothes, windows open; rinse water within reach`,
      why: caution`Splash in the eyes: rinse for 15 minutes and get help. Never together with an acid, ammonia or another chlorine.`,
      caution: plan.product.kind === 'solid' ? `${HAZARDS()} ${GRANULES()}` : HAZARDS(),
    }),
    acid(known.acidAt ?? []),
    ...(plan.reason === 'flood' ? [flood()] : []),
    ...(own ? [] : [aside(plan)]),
    ...(isTank(plan.targets)
      ? [
          step('ready', 'empty', {
            text: plan.targets.includes('vehicle-tank')
              ? say`Drain the tank, and empty the waste tank first`
              : say`Drain the tank as far as it runs, and rinse out silt from outside`,
            why: say`Dirt and old water eat the dose before it does anything.`,
            caution: NEVER_ENTER(),
          }),
        ]
      : []),
    ...(plan.septic
      ? [
          step('ready', 'septic', {
            text: say`Septic system: agree where the strong water goes before any is made`,
            why: say`In quantity it kills the septic tank’s own life.`,
          }),
        ]
      : []),
    step('ready', 'hold', {
      kind: 'hold',
      hold: 'do-not-use',
      text: own
        ? say`Tell the household: nothing from this unit until it is flushed`
        : say`Tell the household: do not use the water until we have flushed it`,
      why: say`The hold stands on every screen and paper of this site until the flush is proved by strips.`,
    }),
    ...(figures.computed
      ? []
      : [
          step('ready', 'unknown', {
            text: say`Not computed: nobody knows the volume. The first strips decide how much more is wanted`,
            why: say`A fixed amount can be far off either way.`,
          }),
        ]),
  ]
}

/** The van's list is looked at before anybody is asked. */
const acid = (sites: readonly string[]): JobStep =>
  step('ready', 'acid', {
    kind: 'choice',
    text:
      sites.length > 0
        ? say`Your van’s list has sleeve descaler today, for ${sites.join(say` and `)}. Is it, or any other acid, here or in the van?`
        : say`Is any descaler, vinegar or other acid in use here or in the van today? Your van’s list has none`,
    why: caution`Acid and chlorine make a toxic gas: they never stand in one job or one van day.`,
    options: [
      { id: 'no', text: say`None` },
      { id: 'yes', text: say`There is` },
    ],
  })

const flood = (): JobStep =>
  step('ready', 'flood', {
    kind: 'choice',
    text: say`Could fuel, oil, paint, pesticide or other chemicals have come in with the flood?`,
    why: say`Chlorine and boiling do nothing against chemicals, and boiling makes them stronger. Where they cannot be ruled out the household gets bottled water, and the laboratory is asked to look for them.`,
    options: [
      { id: 'no', text: say`Ruled out` },
      { id: 'yes', text: say`Yes` },
      { id: 'unknown', text: say`Nobody knows` },
    ],
  })

const aside = (plan: JobPlan): JobStep => {
  const values = { hours: { kind: 'hours' as const, value: contactAsked(plan).hours } }
  const why = say`From the dose to the flush no tap may be used: not to drink, not to wash, not to flush a toilet without need.`
  return storedIsFit(plan.reason)
    ? step('ready', 'aside', { text: say`Stored drinking water set aside for the household, for {hours}`, why, values })
    : step('ready', 'aside', {
        text: say`Bottled water for the household, for {hours}: no water that stands stored here is fit to drink`,
        why: say`${why} What is in tanks, jugs and filters came from the same water.`,
        values,
      })
}
