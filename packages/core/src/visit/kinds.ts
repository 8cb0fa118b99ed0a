import type { JobPlan } from '../disinfection/plan'
import { RATED } from '../firm/things'
import {
  above,
  day,
  type Fields,
  flag,
  group,
  id,
  instant,
  json,
  line,
  nullable,
  number,
  numberOf,
  oneOf,
  otherwise,
  text,
  version,
  whole,
} from '../records'
import { SURPRISES } from '../train/surprises'
import { type Action, HOLD_KINDS, VERBS, type Verb } from '../train/types'

/** What every fact of field work carries. Facts are never changed: a correction is a new fact that supersedes one. */
export const FACT_BASE = {
  /** UUIDv7 made by the device. */
  id,
  /** Instant it happened, by the device. */
  at: instant,
  /** The device's own order, rising. */
  seq: whole(0, Number.MAX_SAFE_INTEGER),
  siteId: id,
  /** The visit it belongs to; a job's facts share the job's id over all its days. */
  visitId: id,
  /** The fact of the same kind that this one corrects. */
  supersedes: nullable(id),
  /** True when it only takes the superseded one back. */
  voided: flag,
} satisfies Fields

/** A key names every stage a step is about. */
const stepKey = line(1000)
const phase = oneOf('before', 'after')
const read = (most: number) => nullable(number(0, most))
const bacteria = oneOf('absent', 'present')
/** One step of a block that was ticked at once, as `step-done` would name it. */
export interface BlockStep {
  stepKey: string
  verb: Verb
  stageId: string | null
}
/** Longest time a clock of a step can be set to: two weeks. */
const CLOCK_MOST_S = 14 * 86_400

/**
 * Every kind of fact, once: its fields in the order they are written. Schema, columns, row and mapper follow from here; what older
 * clients send of a kind that has changed since is turned into this in `upgrade.ts`.
 */
export const FACT_KINDS = {
  'visit-begun': {
    stopId: nullable(id),
    systemId: id,
    trainVersion: version,
    engineVersion: version,
    tasks: json<{ stage: string; action: Action }[]>('tasks'),
    /** Where the work is done at this visit; null: as the firm's school says. */
    place: otherwise(null, nullable(oneOf('in-place', 'at-the-bench'))),
  },
  'tds-reading': {
    systemId: id,
    phase,
    water: oneOf('untreated', 'treated'),
    display: number(0, 200_000),
    multiplier: numberOf(1, 10),
    quantity: oneOf('tds', 'ec'),
    scale: numberOf(0.5, 0.64, 0.7),
    compensated: flag,
    temperatureC: nullable(number(-2, 100)),
    settled: flag,
    /** The technician was asked about a doubtful value and kept it. */
    keptDespiteDoubt: flag,
  },
  /** What is read of one stage at a visit, or (without a stage) of the whole system: each value null where it was not read. */
  'stage-reading': {
    systemId: id,
    stageId: nullable(id),
    phase,
    /** As the counter shows it; what that means across roll-overs is worked out where it is used. */
    counterL: read(1e9),
    /** The counter was replaced or set to nothing since it was last read. */
    counterStartedOver: flag,
    inKpa: read(3000),
    outKpa: read(3000),
    flowLMin: read(2000),
    /** Flow at the same tap when the element was clean. */
    cleanFlowLMin: nullable(above(0, 2000)),
    chlorineAfterMgL: read(50),
    lampHours: read(500_000),
    intensityPercent: read(200),
    /** Permeate, by jug and watch. */
    productLMin: read(500),
    waterC: nullable(number(-2, 100)),
    /** Of a softener, as calcium carbonate. */
    hardnessInMgL: otherwise(null, read(5000)),
    hardnessOutMgL: otherwise(null, read(5000)),
    /** Filled up to its mark. */
    saltKg: otherwise(null, read(500)),
  },
  'step-done': {
    stepKey,
    /** What the step does, for whoever looks for it later; null for steps of a disinfection. */
    verb: nullable(oneOf(...VERBS)),
    /** The stage it is about, where it is about one. */
    stageId: nullable(id),
    outcome: oneOf('done', 'answered', 'left-out', 'early'),
    /** `answered`: the option that was chosen. */
    choice: nullable(line(60)),
    /** `left-out`: why. `early`: what was left of its clock. `done`: what was said with it. */
    note: nullable(text(500)),
  },
  /** Steps of one block, done as the sheet says and ticked at once: one record, in their order. */
  'block-done': { block: line(120), steps: json<BlockStep[]>('block-steps') },
  /** Something turned out otherwise than the sheet expected: what follows is worked out anew from there. */
  'step-surprise': {
    stepKey,
    surprise: oneOf(...SURPRISES),
    /** The stage it is about, where that matters. */
    stageId: nullable(id),
  },
  /** Today's work became another one in the middle of it: a stage taken in, or (no action) left for another day. */
  'work-changed': {
    stageId: id,
    action: nullable(oneOf('change', 'wash', 'refill', 'clean')),
    /** Why it is left; null where one is taken in. */
    why: nullable(text(300)),
  },
  'timer-started': { stepKey, seconds: whole(1, CLOCK_MOST_S) },
  'part-removed': {
    stageId: id,
    found: oneOf('as-new', 'light', 'as-expected', 'heavy', 'spent'),
    /** Dirt had got past it; null where that cannot be seen. */
    dirtPast: nullable(flag),
  },
  'part-fitted': {
    stageId: id,
    partId: nullable(id),
    partNumber: line(60),
    position: whole(1, 40),
    markText: line(120),
    /** False where nobody knows when it went in: `at` is then the day it was first seen. Phones of before the question was asked knew it. */
    dateKnown: otherwise(true, flag),
    /** What the part was rated at when it went in; a later change of the catalogue leaves it alone. */
    rated: group(RATED),
  },
  'hold-begun': {
    holdKind: oneOf(...HOLD_KINDS),
    /** Instant it ends by itself; null for those that only a proof lifts. */
    until: nullable(instant),
    /** Long enough for two languages: a caution keeps its English beside it until it is signed off. */
    text: line(1000),
  },
  /** A hold that is over: the customer was told, or (safety holds) a proof is there. */
  'hold-lifted': {
    holdId: id,
    /** What it rests on: a strip, a result, or that its time is over. */
    proof: line(300),
  },
  /** Somebody of the household was told of a hold, or nobody could be reached. */
  'hold-told': {
    holdId: id,
    /** Who was spoken to, or tried. */
    whom: line(120),
    how: oneOf('telephone', 'in-person', 'message', 'nobody-reached'),
  },
  'visit-finished': {
    outcome: oneOf('done', 'partly-done', 'not-right', 'nobody-home', 'part-missing'),
    /** Null when there is no monitor. */
    monitorReset: nullable(flag),
    customerTold: flag,
    note: text(2000),
    /** What stands otherwise than in service, in words: shut, open, off. Phones of before it was asked said nothing of it. */
    leftStanding: otherwise([], json<string[]>('left-standing')),
    /** `not-right`: the stages whose water after the work is not as it should be. */
    notRight: otherwise([], json<string[]>('stage-ids')),
  },
  /** Seen at the door and not today's work: offered to the customer later. Its photos go by the fault's own id. */
  'fault-noted': {
    faultId: id,
    systemId: id,
    stageId: nullable(id),
    what: oneOf('weeping-valve', 'cracked-body', 'missing-bypass', 'missing-shut-off', 'corroded', 'other'),
    text: text(500),
  },
  'fault-settled': { faultId: id, how: oneOf('done', 'declined'), note: text(500) },
  /** A line of the site's own page that was wrong, said at the door. */
  'site-mended': { field: oneOf('access', 'contact', 'phone'), value: text(1000) },
  /** A disinfection as it is planned. Its facts share one `visitId`, the job's, over all its days. */
  'job-planned': { plan: json<JobPlan>('job-plan') },
  'chlorine-dosed': {
    /** The step it belongs to, or `redose`. */
    stepKey,
    amount: above(0, 1e7),
    unit: oneOf('mL', 'g'),
  },
  'strip-read': {
    /** An outlet's id, or `entry`, `jug`. */
    place: line(60),
    purpose: oneOf('jug', 'arrival', 'contact', 'flush', 'sample'),
    /** A nose alone confirms nothing. */
    method: oneOf('strip', 'smell'),
    range: oneOf('low', 'high'),
    /** Free chlorine of the water itself, mg/L: what the strip showed times its dilution; null for a smell. */
    mgL: nullable(number(0, 100_000)),
    dilution: number(1, 100_000),
  },
  'sample-taken': {
    bottle: line(60),
    laboratory: line(120),
    place: line(120),
    /** A bottle with its own dechlorinating salt. */
    dechlorinating: flag,
    chlorineMgL: number(0, 50),
  },
  'sample-result': {
    sampleId: id,
    totalColiform: bacteria,
    eColi: bacteria,
    others: json<{ name: string; value: string }[]>('others'),
    reportNumber: line(60),
    /** Day of the report. */
    day,
  },
  /** A day of a job is over: what follows is worked out from it. */
  'job-day-ended': {
    day: oneOf('dose', 'flush', 'sample', 'job'),
    outcome: oneOf('done', 'nobody-home', 'stopped'),
    note: text(2000),
  },
} satisfies Record<string, Fields>
