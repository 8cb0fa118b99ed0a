import type { JobPlan } from '../../disinfection/plan'
import { caution, say } from '../../words'
import { DISCHARGE_CAUTION } from '../cautions'
import type { JobFigures } from '../figures'
import { runningOrder } from '../outlets'
import { isOwnUnit, isWell } from '../schools'
import { type JobStep, step } from './types'

const FILLS_CAUTION = () => caution`Within the well’s yield: a pump that runs dry burns out.`

function neutralised(plan: JobPlan, figures: JobFigures): JobStep[] {
  if (plan.discharge !== 'neutralised') return []
  return [
    step('flush', 'neutralise', {
      text: say`Neutraliser into the caught, dilute water: {grams} for all of it. Dose, wait, strip, add`,
      why: caution`Worked out from what the water holds now, {chlorine} of chlorine in all. Never into concentrate; sulfites give off a choking gas there. By need, not all at once.`,
      values: { grams: { kind: 'grams', value: figures.neutraliserG }, chlorine: { kind: 'grams', value: figures.chlorineG } },
    }),
  ]
}

/** Flush day: where the water goes, the source or tank first, then every outlet until its own strip shows it clear. */
export function flushSteps(plan: JobPlan, figures: JobFigures): JobStep[] {
  const well = isWell(plan.targets) && !isOwnUnit(plan.targets)
  const fills = figures.flush.parts.flatMap((part) =>
    'fills' in part ? [{ id: part.id, count: Math.max(1, part.fills), litres: part.litres, minutes: part.minutes }] : [],
  )
  return [
    step('flush', 'where', {
      kind: 'choice',
      text: say`Where does the strong water go? About {litres} in all`,
      why: caution`Never onto a lawn, into a stream or a storm drain, nor in quantity into a septic system. Local rules decide.`,
      caution: DISCHARGE_CAUTION[plan.discharge],
      values: { litres: { kind: 'litres', value: figures.flush.totalLitres } },
      options: [
        { id: 'sewer', text: say`Sewer, through an air gap, with permission` },
        { id: 'hard-surface', text: say`Hard surface that drains nowhere living` },
        { id: 'neutralised', text: say`Neutralised first` },
      ],
    }),
    ...neutralised(plan, figures),
    ...(well
      ? [
          step('flush', 'hose', {
            text: say`Hose outside first, about {minutes}, until strips are low`,
            why: say`Not through the house and its septic system. Coloured water at first is expected with iron.`,
            caution: FILLS_CAUTION(),
            values: { minutes: { kind: 'minutes', value: figures.flush.totalMinutes } },
          }),
        ]
      : []),
    ...fills.flatMap(({ id, count, litres, minutes }) =>
      Array.from({ length: count }, (_, index) =>
        step('flush', `fill-${id}-${index + 1}`, {
          text: say`Drain the tank and fill it: ${index + 1} of ${count}, {litres}, about {minutes}`,
          why: say`As many times as what stays in the bottom requires. Emptying and filling both take their time.`,
          values: { litres: { kind: 'litres', value: litres / count }, minutes: { kind: 'minutes', value: minutes / count } },
        }),
      ),
    ),
    ...(isOwnUnit(plan.targets)
      ? [
          step('flush', 'tank-twice', {
            text: say`Run it out through the tap; where there is a tank, empty it, let it fill, and empty it again`,
            why: say`Twice: what stands in the tank’s bottom thins out slowly.`,
          }),
        ]
      : []),
    ...runningOrder(plan.outlets).map((outlet) =>
      step('flush', `out-${outlet.id}`, {
        kind: 'clear',
        text: say`${outlet.name}: run it until a low-range strip shows the chlorine out`,
        why:
          outlet.side === 'hot'
            ? say`Gently, away from the face: what stood for weeks in hot pipes is not breathed in.`
            : say`Every outlet that had the dose is proved by its own strip.`,
        outlet,
      }),
    ),
    ...(isOwnUnit(plan.targets)
      ? []
      : [
          step('flush', 'rest', {
            text:
              say`An empty laundry load, toilets flushed once, ice thrown away` +
              (plan.targets.includes('vehicle-tank') ? say`, waste tank emptied` : ''),
            why: say`What draws by itself still holds the dose.`,
          }),
        ]),
  ]
}
