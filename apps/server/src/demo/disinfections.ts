import type { JobPlan } from '@evenround/core/disinfection'
import { jobFigures, plusHours } from '@evenround/core/job'
import { addDays } from '@evenround/core/units'
import { done, type Fact, type OwnFact, type StripRead } from '@evenround/core/visit'
import { ChlorineProduct } from '../db/entities/disinfection'
import { Site, System } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { followJob } from '../features/facts/job'
import { writeFacts } from '../features/facts/write'
import { dayIn } from '../time/zone'
import { demoId } from './ids'
import { DEMO_FIRM } from './world'

const PRODUCTS = [
  {
    key: 'clear-6',
    name: 'Brackwell Clear 6',
    form: 'liquid',
    percent: 6,
    basis: 'w/w',
    densityKgL: 1.08,
    strengthAs: 'available-chlorine',
    agoDays: 120,
  },
  {
    key: 'strong-12',
    name: 'Loom & Tarn Strong 12.5',
    form: 'liquid',
    percent: 12.5,
    basis: 'w/v',
    densityKgL: null,
    strengthAs: 'sodium-hypochlorite',
    agoDays: 45,
  },
  {
    key: 'granules-65',
    name: 'Loom & Tarn Granules 65',
    form: 'solid',
    percent: 65,
    basis: null,
    densityKgL: null,
    strengthAs: 'available-chlorine',
    agoDays: null,
  },
] as const

const outlet = (id: string, name: string, side: 'cold' | 'hot', pipeL: number) => ({ id, name, side, pipeL, flowLMin: 8 })

/** A drilled well as most of the islands have it: 24 m of standing water in a 150 mm casing. */
function wellPlan(more: Partial<JobPlan> & Pick<JobPlan, 'systemIds' | 'day'>): JobPlan {
  return {
    targets: ['drilled-well'],
    reason: 'bacteria',
    note: '',
    parts: [
      { id: 'casing', name: 'Well casing', side: 'source', part: { kind: 'casing', diameterMm: 150, depthM: 42, staticLevelM: 18 } },
      { id: 'riser', name: 'Pipes', side: 'cold', part: { kind: 'pipe', boreMm: 20.2, lengthM: 30 } },
      {
        id: 'tank',
        name: 'Pressure tank',
        side: 'cold',
        part: { kind: 'pressure-tank', volumeL: 100, prechargeKpa: 200, pressureKpa: 300 },
      },
    ],
    product: {
      kind: 'liquid',
      percent: 6,
      basis: 'w/w',
      densityKgL: 1.08,
      strengthAs: 'available-chlorine',
      ageDays: 120,
      storedAtC: 18,
      thickened: false,
    },
    productName: 'Brackwell Clear 6',
    jug: null,
    school: 'well-double',
    targetMgL: 50,
    contactHours: 12,
    strengthReason: null,
    contactReason: null,
    demand: { ironMgL: 0.5, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 0.56 },
    pH: 7.9,
    waterC: 9,
    heater: 'bypass',
    outlets: [
      outlet('yard', 'Yard tap', 'cold', 9),
      outlet('kitchen-cold', 'Kitchen, cold', 'cold', 4),
      outlet('kitchen-hot', 'Kitchen, hot', 'hot', 5),
    ],
    flowLMin: 20,
    heelL: 0,
    discharge: 'hard-surface',
    neutraliser: 'thiosulfate',
    septic: true,
    supply: 'private',
    supplyMgL: 0,
    sample: true,
    repeat: 'yearly',
    technicianId: demoId('person', 'wren'),
    afterJob: null,
    ...more,
  }
}

interface Job {
  key: string
  site: string
  plan: (systemIds: string[], day: string) => JobPlan
  /** Hours before now at which the last outlet had its dose. */
  hoursAgo: number
  strips: readonly [hours: number, mgL: number][]
  flushedAfterH: number | null
  sample: { afterFlushDays: number; bottle: string; result: 'positive' | 'clean' | null } | null
}

const JOBS: readonly Job[] = [
  {
    key: 'positive',
    site: 'Weaving mill',
    plan: (systemIds, day) => wellPlan({ systemIds, day, reason: 'flood', note: 'After the October flood' }),
    hoursAgo: 15 * 24,
    strips: [
      [5, 34],
      [12, 18],
    ],
    flushedAfterH: 13,
    sample: { afterFlushDays: 6, bottle: 'F-2041-P', result: 'positive' },
  },
  {
    key: 'contact',
    site: 'Stack Farm',
    plan: (systemIds, day) => wellPlan({ systemIds, day, reason: 'yearly' }),
    hoursAgo: 7.4,
    strips: [
      [3.2, 40],
      [6.5, 31],
    ],
    flushedAfterH: null,
    sample: null,
  },
  {
    key: 'sample',
    site: 'Smokehouse',
    plan: (systemIds, day) =>
      wellPlan({
        systemIds,
        day,
        reason: 'opened',
        heater: 'none',
        outlets: [outlet('wash', 'Wash-down', 'cold', 12), outlet('sink', 'Sink', 'cold', 5)],
      }),
    hoursAgo: 5.6 * 24,
    strips: [[12, 21]],
    flushedAfterH: 13,
    sample: null,
  },
]

/** The facts of one job as they would have come from a phone, in order. */
function factsOf(job: Job, siteId: string, systemIds: string[], now: Date): Fact[] {
  const jobId = demoId('disinfection', job.key)
  const start = new Date(now.getTime() - job.hoursAgo * 3_600_000).toISOString()
  const plan = job.plan(systemIds, dayIn(DEMO_FIRM.timeZone, new Date(plusHours(start, -2))))
  const figures = jobFigures(plan)
  const facts: Fact[] = []
  let seq = 0
  const add = (at: string, fact: OwnFact): string => {
    const id = demoId('disinfection-fact', job.key, seq)
    facts.push({ id, at, seq, siteId, visitId: jobId, supersedes: null, voided: false, ...fact })
    seq++
    return id
  }
  const strip = (at: string, place: string, purpose: StripRead['purpose'], mgL: number, range: StripRead['range'] = 'high') =>
    add(at, { kind: 'strip-read', place, purpose, method: 'strip', range, mgL, dilution: 1 })
  add(plusHours(start, -30), { kind: 'job-planned', plan })
  const hold = add(plusHours(start, -2), {
    kind: 'hold-begun',
    holdKind: 'do-not-use',
    until: null,
    text: 'Strong chlorine stands in the pipes: do not drink, wash, cook or water with it.',
  })
  for (const { id, amount } of figures.doses)
    add(plusHours(start, id === 'hot' ? -0.6 : -1.2), { kind: 'chlorine-dosed', stepKey: `dose/${id}`, amount, unit: figures.unit })
  for (const [index, { id }] of plan.outlets.entries()) strip(plusHours(start, (index + 1 - plan.outlets.length) / 10), id, 'arrival', 50)
  const tick = (at: string, stepKey: string) => add(at, { kind: 'step-done', stepKey, verb: null, stageId: null, ...done() })
  tick(plusHours(start, 0.2), 'spread/rinse')
  const end = plan.outlets.at(-1)?.id ?? ''
  for (const [hours, mgL] of job.strips) strip(plusHours(start, hours), end, 'contact', mgL)
  if (job.flushedAfterH === null) return facts
  const flushed = plusHours(start, job.flushedAfterH)
  tick(plusHours(flushed, -1), 'contact/end')
  for (const { id } of plan.outlets) strip(plusHours(flushed, -0.2), id, 'flush', 0, 'low')
  add(flushed, { kind: 'hold-lifted', holdId: hold, proof: 'strips at every outlet, 0 mg/L' })
  add(flushed, {
    kind: 'hold-begun',
    holdKind: 'boil-or-bottled',
    until: null,
    text: 'Boiled or bottled water until the laboratory finds no coliforms.',
  })
  add(flushed, { kind: 'job-day-ended', day: 'flush', outcome: 'done', note: '' })
  if (!job.sample) return facts
  const taken = plusHours(flushed, job.sample.afterFlushDays * 24)
  const sampleId = add(taken, {
    kind: 'sample-taken',
    bottle: job.sample.bottle,
    laboratory: 'Skellan Water Laboratory',
    place: 'Kitchen, cold',
    dechlorinating: false,
    chlorineMgL: 0,
  })
  add(taken, { kind: 'job-day-ended', day: 'sample', outcome: 'done', note: '' })
  const result = plusHours(taken, 50)
  if (job.sample.result)
    add(result, {
      kind: 'sample-result',
      sampleId,
      totalColiform: job.sample.result === 'positive' ? 'present' : 'absent',
      eColi: 'absent',
      others: [],
      reportNumber: `SWL-${job.sample.bottle}`,
      day: result.slice(0, 10),
    })
  return facts
}

/** Chlorine on the shelf, a contact clock that runs, a sample that waits, and a positive one. */
export async function writeDisinfections(scope: FirmScope, today: string, now: Date): Promise<void> {
  await scope.insert(
    ChlorineProduct,
    PRODUCTS.map(({ key, agoDays, ...product }) => ({
      ...product,
      id: demoId('chlorine', key),
      version: 1,
      thickened: false,
      filledOn: agoDays === null ? null : addDays(today, -agoDays),
      storedAtC: 18,
    })),
  )
  for (const job of JOBS) {
    const siteId = (await scope.findOne(Site, { name: job.site }))?.id
    if (siteId === undefined) throw new RangeError(`the demo has no site ${job.site}`)
    const systems = await scope.find(System, { siteId })
    const facts = factsOf(
      job,
      siteId,
      systems.map(({ id }) => id),
      now,
    )
    await writeFacts(scope, [{ personId: demoId('person', 'wren'), facts }], {
      deviceId: demoId('device', 'wren'),
      from: 'demo',
      arrivedAt: null,
    })
    const [planned] = facts
    if (planned) await followJob(scope, planned, now)
  }
}
