import type { JobOutlet, JobPlan } from '../disinfection/plan'
import type { SheetStep } from '../train'
import type { Protection } from '../train/protect'
import { contactAsked } from './asked'
import { BACK_CAUTION, DISCHARGE_CAUTION, GRANULES, HAZARDS, NEVER_ENTER, WELL_POWER } from './cautions'
import type { JobDose, JobFigures } from './figures'
import { runningOrder } from './outlets'
import { isOwnUnit, isTank, isWell } from './schools'

export const JOB_PHASES = ['ready', 'protect', 'dose', 'spread', 'flush', 'back'] as const
export type JobPhase = (typeof JOB_PHASES)[number]

/** A figure in a step's words, in SI; screens say it in the firm's units. */
export type StepValue = { kind: 'litres' | 'amount' | 'minutes' | 'grams' | 'hours'; value: number }

export interface JobStep {
  /** Stable: the same act keeps its key when the plan is changed. */
  key: string
  phase: JobPhase
  /**
   * `tick`: done or not. `clock`: a timer of `minutes`. `choice`: one of `options`. `dose`: an amount goes in. `outlet`: run until a
   * strip shows the dose. `clear`: run until a strip shows it gone. `hold`: the customer is told and a hold begins.
   */
  kind: 'tick' | 'clock' | 'choice' | 'dose' | 'outlet' | 'clear' | 'hold'
  /** `{name}` stands for a value. */
  text: string
  why: string
  caution?: string
  values?: Record<string, StepValue>
  minutes?: number
  options?: readonly { id: string; text: string }[]
  outlet?: JobOutlet
  dose?: { id: JobDose['id']; amount: number }
  system?: string
}

export interface Guarded {
  systemId: string
  systemName: string
  protection: Protection
}

type Draft = Omit<JobStep, 'key' | 'phase' | 'kind'> & { kind?: JobStep['kind'] }
const step = (phase: JobPhase, id: string, draft: Draft): JobStep => ({ kind: 'tick', ...draft, key: `${phase}/${id}`, phase })

function ready(plan: JobPlan, figures: JobFigures): JobStep[] {
  const own = isOwnUnit(plan.targets)
  return [
    step('ready', 'guard', {
      text: 'Gloves, goggles, old clothes, windows open; rinse water within reach',
      why: 'Splash in the eyes: rinse for 15 minutes and get help. Never together with an acid, ammonia or another chlorine.',
      caution: plan.product.kind === 'solid' ? `${HAZARDS} ${GRANULES}` : HAZARDS,
    }),
    step('ready', 'acid', {
      kind: 'choice',
      text: 'Is any descaler, vinegar or other acid in use here or in the van today?',
      why: 'Acid and chlorine make a toxic gas: they never stand in one job or one van day.',
      options: [
        { id: 'no', text: 'None' },
        { id: 'yes', text: 'There is' },
      ],
    }),
    ...(own
      ? []
      : [
          step('ready', 'aside', {
            text: 'Stored drinking water set aside for the household, for {hours}',
            why: 'From the dose to the flush no tap may be used: not to drink, not to wash, not to flush a toilet without need.',
            values: { hours: { kind: 'hours', value: contactAsked(plan).hours } },
          }),
        ]),
    ...(isTank(plan.targets)
      ? [
          step('ready', 'empty', {
            text: plan.targets.includes('vehicle-tank')
              ? 'Drain the tank, and empty the waste tank first'
              : 'Drain the tank as far as it runs, and rinse out silt from outside',
            why: 'Dirt and old water eat the dose before it does anything.',
            caution: NEVER_ENTER,
          }),
        ]
      : []),
    ...(plan.septic
      ? [
          step('ready', 'septic', {
            text: 'Septic system: agree where the strong water goes before any is made',
            why: 'In quantity it kills the septic tank’s own life.',
          }),
        ]
      : []),
    step('ready', 'hold', {
      kind: 'hold',
      text: own
        ? 'Tell the household: nothing from this unit until it is flushed'
        : 'Tell the household: do not use the water until we have flushed it',
      why: 'The hold stands on every screen and paper of this site until the flush is proved by strips.',
    }),
  ].concat(figures.computed ? [] : [unknownVolume()])
}

const unknownVolume = (): JobStep =>
  step('ready', 'unknown', {
    text: 'Not computed: nobody knows the volume. The first strips decide how much more is wanted',
    why: 'A fixed amount can be far off either way.',
  })

const SKIPPED_VERBS: readonly SheetStep['verb'][] = ['dose', 'strip', 'measure', 'record']

/** One train's own list, as the machine proved it; its strips are the job's. */
function ofTrain(phase: 'protect' | 'back', { systemId, systemName, protection }: Guarded): JobStep[] {
  const steps = phase === 'protect' ? protection.before : protection.after
  return steps
    .filter(({ verb }) => !SKIPPED_VERBS.includes(verb))
    .map((one) =>
      step(phase, `${systemId}/${one.key}`, {
        ...(one.evidence === 'timer' ? { kind: 'clock' as const, minutes: one.minutes } : {}),
        ...(one.verb === 'ask'
          ? {
              kind: 'choice' as const,
              options: [
                { id: 'yes', text: 'Yes' },
                { id: 'no', text: 'No: look further up' },
              ],
            }
          : {}),
        text: one.text,
        why: one.why,
        ...(one.caution === undefined ? {} : { caution: one.caution }),
        system: systemName,
      }),
    )
}

/** The heater where no drawing shows one. */
function heaterBy(plan: JobPlan, guarded: readonly Guarded[], phase: 'protect' | 'back'): JobStep[] {
  const drawn = guarded.some(({ protection }) => protection.things.some(({ what }) => what === 'heater-off'))
  if (plan.heater === 'none' || drawn) return []
  if (phase === 'protect')
    return [
      step('protect', 'heater', {
        text:
          plan.heater === 'bypass'
            ? 'Water heater: power or gas off, bypassed, tagged'
            : 'Water heater: power or gas off, tagged; it stays in the way of the dose',
        why:
          plan.heater === 'bypass'
            ? 'Its hot pipes are dosed through the bypass all the same.'
            : 'It is filled with clean water before it heats again, always.',
        caution: 'Hot water, mains electricity and gas. Descaling with acid belongs to another day.',
      }),
    ]
  return [
    step('back', 'heater-fill', {
      text:
        plan.heater === 'bypass'
          ? 'Water heater: bypass back, open a hot tap until it runs without air'
          : 'Water heater: open a hot tap until it runs clear and without air',
      why: 'Full first: a heater that heats dry is ruined, and dangerous.',
    }),
    step('back', 'heater-on', {
      text: 'Now power or gas on, and the tag off',
      why: 'It is full.',
      caution: 'Only after water ran at the hot tap.',
    }),
  ]
}

const mixed = (id: string, dose: JobDose, plan: JobPlan, figures: JobFigures): JobStep =>
  step('dose', `${id}-mix`, {
    text: `{water} of water into the bucket first, then {amount} of ${plan.productName}`,
    why:
      plan.product.kind === 'solid' ? 'Dissolved first; never granules into a well or a tank.' : 'Water first: nothing splashes up strong.',
    caution: plan.product.kind === 'solid' ? GRANULES : HAZARDS,
    values: {
      water: { kind: 'litres', value: figures.bucketL },
      amount: { kind: 'amount', value: dose.amount / dose.parts },
    },
  })

function wellDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  const again = dose.id === 'hot'
  const id = again ? 'hot' : 'well'
  return [
    ...(again
      ? []
      : [
          step('dose', 'power-off', {
            text: 'Pump’s power off, locked and tagged, before the cap is opened',
            why: 'The wires in the cap carry mains.',
            caution: WELL_POWER,
          }),
          step('dose', 'cap', {
            text: 'Cap off, wires set aside; look at seal, screen and casing',
            why: 'A cap that lets insects or rain in is the usual cause.',
            caution: NEVER_ENTER,
          }),
        ]),
    mixed(id, dose, plan, figures),
    step('dose', `${id}-pour`, {
      kind: 'dose',
      text: again ? 'The second dose, for the hot side: pour it round the casing' : 'Pour it round the casing, along the walls',
      why: again
        ? 'What the cold side drew is gone from the well: the hot side gets the same again.'
        : 'The walls above the water want it as well.',
      dose: { id: dose.id, amount: dose.amount },
    }),
    ...(figures.recirculateMin === null
      ? []
      : [
          ...(again
            ? []
            : [
                step('dose', 'power-on', {
                  text: 'Power on; a hose from an outside tap back into the casing',
                  why: 'The bottom of the column is reached last: a minute or two of mixing is not enough.',
                  caution: `${WELL_POWER} ${BACK_CAUTION}`,
                }),
              ]),
          step('dose', `${id}-round`, {
            kind: 'clock',
            text: 'Recirculate {minutes}, the hose going round the walls',
            why: 'One turnover of the standing water, or ten minutes, whichever is longer.',
            minutes: figures.recirculateMin,
            values: { minutes: { kind: 'minutes', value: figures.recirculateMin } },
          }),
        ]),
  ]
}

function tankDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  return Array.from({ length: dose.parts }, (_, index) => index + 1).flatMap((part) => [
    ...(part === 1 ? [mixed('tank', dose, plan, figures)] : []),
    step('dose', `tank-${part}`, {
      kind: 'dose',
      text: `Part ${part} of ${dose.parts}: {amount} in with this part of the fill, {litres}`,
      why: 'A part with each part of the fill, so that it mixes; the fill is metered.',
      values: {
        amount: { kind: 'amount', value: dose.amount / dose.parts },
        litres: { kind: 'litres', value: dose.volumeL / dose.parts },
      },
      dose: { id: dose.id, amount: dose.amount / dose.parts },
    }),
  ])
}

function pipeDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  const id = dose.id === 'hot' ? 'hot' : 'pipes'
  return [
    step('dose', `${id}-way`, {
      kind: 'choice',
      text: dose.id === 'hot' ? 'Way in for the hot side’s dose' : 'Way in for the dose',
      why: 'Whatever it goes through carries it: backflow protection stands between it and the mains.',
      caution: BACK_CAUTION,
      options: [
        { id: 'housing', text: 'An emptied housing' },
        { id: 'suction', text: 'Pump’s suction from a bucket' },
        { id: 'hose', text: 'The fill hose' },
      ],
    }),
    mixed(id, dose, plan, figures),
    step('dose', `${id}-in`, {
      kind: 'dose',
      text: '{amount}, thinned, goes in while a tap runs slowly',
      why: 'It follows the water that leaves.',
      values: { amount: { kind: 'amount', value: dose.amount } },
      dose: { id: dose.id, amount: dose.amount },
    }),
  ]
}

function unitDose(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  return [
    mixed('unit', dose, plan, figures),
    step('dose', 'unit-in', {
      kind: 'dose',
      text: '{amount} into the first housing, thinned; draw it to the tap, then let the tank fill',
      why: 'Elements and membrane are out: nothing eats it and nothing is spoiled.',
      values: { amount: { kind: 'amount', value: dose.amount } },
      dose: { id: dose.id, amount: dose.amount },
    }),
  ]
}

function doseSteps(plan: JobPlan, figures: JobFigures, dose: JobDose): JobStep[] {
  if (isOwnUnit(plan.targets)) return unitDose(plan, figures, dose)
  if (isWell(plan.targets)) return wellDose(plan, figures, dose)
  if (isTank(plan.targets) && dose.id !== 'hot') return tankDose(plan, figures, dose)
  return pipeDose(plan, figures, dose)
}

const runOutlet = (outlet: JobOutlet, minutes: number): JobStep =>
  step('spread', `out-${outlet.id}`, {
    kind: 'outlet',
    text: `${outlet.name}: run it until a strip shows the dose`,
    why: 'Expected after {minutes} at its flow. The nose goes blind after a few minutes: smell alone does not confirm it.',
    values: { minutes: { kind: 'minutes', value: minutes } },
    outlet,
  })

const FILLS_CAUTION = 'Within the well’s yield: a pump that runs dry burns out.'

function flushSteps(plan: JobPlan, figures: JobFigures): JobStep[] {
  const well = isWell(plan.targets) && !isOwnUnit(plan.targets)
  const fills = figures.flush.parts.flatMap((part) => ('fills' in part ? [{ id: part.id, count: part.fills, litres: part.litres }] : []))
  return [
    step('flush', 'where', {
      kind: 'choice',
      text: 'Where does the strong water go? About {litres} in all',
      why: 'Never onto a lawn, into a stream or a storm drain, nor in quantity into a septic system. Local rules decide.',
      caution: DISCHARGE_CAUTION[plan.discharge],
      values: { litres: { kind: 'litres', value: figures.flush.totalLitres } },
      options: [
        { id: 'sewer', text: 'Sewer, through an air gap, with permission' },
        { id: 'hard-surface', text: 'Hard surface that drains nowhere living' },
        { id: 'neutralised', text: 'Neutralised first' },
      ],
    }),
    ...(plan.discharge === 'neutralised'
      ? [
          step('flush', 'neutralise', {
            text: 'Neutraliser into the caught, dilute water: {grams} in all. Dose, wait, strip, add',
            why: 'Never into concentrate; sulfites give off a choking gas there. By need, not all at once.',
            values: { grams: { kind: 'grams', value: figures.neutraliserG } },
          }),
        ]
      : []),
    ...(well
      ? [
          step('flush', 'hose', {
            text: 'Hose outside first, about {minutes}, until strips are low',
            why: 'Not through the house and its septic system. Coloured water at first is expected with iron.',
            caution: FILLS_CAUTION,
            values: { minutes: { kind: 'minutes', value: figures.flush.totalMinutes } },
          }),
        ]
      : []),
    ...fills.flatMap(({ id, count, litres }) =>
      Array.from({ length: Math.max(1, count) }, (_, index) =>
        step('flush', `fill-${id}-${index + 1}`, {
          text: `Drain the tank and fill it: ${index + 1} of ${Math.max(1, count)}, {litres}`,
          why: 'As many times as what stays in the bottom requires.',
          values: { litres: { kind: 'litres', value: litres / Math.max(1, count) } },
        }),
      ),
    ),
    ...(isOwnUnit(plan.targets)
      ? [
          step('flush', 'tank-twice', {
            text: 'Run it out through the tap; empty the tank, let it fill, and empty it again',
            why: 'Twice: what stands in the tank’s bottom thins out slowly.',
          }),
        ]
      : []),
    ...runningOrder(plan.outlets).map((outlet) =>
      step('flush', `out-${outlet.id}`, {
        kind: 'clear',
        text: `${outlet.name}: run it until a low-range strip shows the chlorine out`,
        why:
          outlet.side === 'hot'
            ? 'Gently, away from the face: what stood for weeks in hot pipes is not breathed in.'
            : 'Every outlet that had the dose is proved by its own strip.',
        outlet,
      }),
    ),
    ...(isOwnUnit(plan.targets)
      ? []
      : [
          step('flush', 'rest', {
            text:
              'An empty laundry load, toilets flushed once, ice thrown away' +
              (plan.targets.includes('vehicle-tank') ? ', waste tank emptied' : ''),
            why: 'What draws by itself still holds the dose.',
          }),
        ]),
  ]
}

/**
 * The steps of a job for dose day and flush day, in their order: protect, dose, outlets furthest first, cold then hot, the second dose
 * before the hot ones; then flush by outlet, and back to service from the lists made when things were shut. Deterministic.
 */
export function jobSteps(plan: JobPlan, figures: JobFigures, guarded: readonly Guarded[]): JobStep[] {
  const [first, second] = figures.doses as [JobDose, JobDose | undefined]
  const run = (side: JobOutlet['side']): JobStep[] =>
    figures.arrivals.filter(({ outlet }) => outlet.side === side).map(({ outlet, minutes }) => runOutlet(outlet, minutes))
  const well = isWell(plan.targets) && !isOwnUnit(plan.targets)
  return [
    ...ready(plan, figures),
    ...guarded.flatMap((one) => ofTrain('protect', one)),
    ...heaterBy(plan, guarded, 'protect'),
    ...doseSteps(plan, figures, first),
    ...run('cold'),
    ...(second ? doseSteps(plan, figures, second) : []),
    ...run('hot'),
    ...(well
      ? [
          step('spread', 'rinse', {
            text: 'Rinse the casing walls down once more, hose out of the well, cap on',
            why: 'The upper casing has drained meanwhile. A hose left in a well carries back what it lies in.',
            caution: BACK_CAUTION,
          }),
        ]
      : []),
    ...flushSteps(plan, figures),
    ...guarded.flatMap((one) => ofTrain('back', one)),
    ...heaterBy(plan, guarded, 'back'),
    step('back', 'lamp', {
      text: 'Lamp, monitors and tags: lamp lit, monitors reset, dates on what is new, no tag left hanging',
      why: 'Every bypass and shut-off that was moved is on the list above: none may be forgotten.',
    }),
    ...(plan.sample
      ? [
          step('back', 'hold', {
            kind: 'hold',
            text: 'Tell the household: boiled or bottled water until the laboratory’s result is in',
            why: 'No chlorine in the tap says nothing about germs yet: the sample does.',
          }),
        ]
      : []),
  ]
}
