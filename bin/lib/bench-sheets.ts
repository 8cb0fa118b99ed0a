// Whether run sheets are safe, and the checker worth something: drawn trains, mutants of their sheets, and what a sheet costs.

import { drawTrain, seeded } from '@evenround/core/simulate'
import {
  type Action,
  actionsFor,
  FAMILIES,
  type Family,
  familyTrain,
  type SheetResult,
  type SheetSchools,
  sheet,
  stagesInFlow,
  type Task,
  type Train,
} from '@evenround/core/train'
import { check, type RuleId } from '@evenround/core/train/check'
import { harmsOf, mutantsOf, traceOf } from '@evenround/core/train/mutants'

const TRAINS = 2000
const MUTATED = 300
const print = (text: string): void => void process.stdout.write(`${text}\n`)

let good = true
function row(what: string, measured: string, target: string, met: boolean): void {
  good &&= met
  print(`| ${what.padEnd(74)} | ${measured.padEnd(28)} | ${target.padEnd(10)} | ${(met ? 'met' : 'MISSED').padEnd(6)} |`)
}

interface Job {
  train: Train
  tasks: Task[]
  schools: SheetSchools
}
type Made = Extract<SheetResult, { ok: true }>

function drawJob(seed: number): Job {
  const rng = seeded(seed)
  const train = drawTrain(rng)
  const stages = stagesInFlow(train)
  const some = stages.filter(() => rng.chance(0.6))
  const tasks = (some.length > 0 ? some : stages.slice(0, 1)).map((stage) => ({ stage: stage.id, action: rng.pick(actionsFor(stage)) }))
  const schools: SheetSchools = {
    closing: rng.pick(['hand-only', 'hand-and-quarter-turn'] as const),
    place: rng.pick(['in-place', 'at-the-bench'] as const),
    seals: rng.pick(['reuse', 'new'] as const),
    order: rng.pick(['one-at-a-time', 'all-out'] as const),
    tankWater: rng.pick(['keep', 'drain'] as const),
  }
  return { train, tasks, schools }
}

function familyJobs(): Job[] {
  return Object.values(FAMILIES as Record<string, Family>).map((family) => {
    const train = familyTrain(
      family,
      family.stages.map((_, index) => `s${index + 1}`),
    )
    const tasks = stagesInFlow(train).map((stage) => ({ stage: stage.id, action: actionsFor(stage)[0] as Action }))
    return { train, tasks, schools: { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' } }
  })
}

const passes = ({ train, tasks, schools }: Job, { visits, holds }: Made): boolean =>
  check({ train, tasks, schools, visits, holds }).findings.length === 0

/** Twelve stages in a row with everything in them that makes a sheet long, all of them due. */
function twelve(): Job {
  const media = [
    'sediment',
    'sediment',
    'carbon-block',
    'fluoride-media',
    'carbon-block',
    'carbon-block',
    'membrane',
    'remineraliser',
    'post-carbon',
    'deionising-resin',
    'post-carbon',
    'carbon-block',
  ] as const
  const family: Family = {
    name: 'twelve',
    stages: media.map((one) => ({
      media: one,
      housing: one === 'membrane' ? 'membrane-vessel' : 'sump-large',
      reliefButton: true,
      drainCocks: 2,
    })),
    tankL: 12,
    outlet: 'drinking',
  }
  const ids = media.map((_, index) => `s${index + 1}`)
  return {
    train: familyTrain(family, ids),
    tasks: ids.map((stage) => ({ stage, action: 'change' as const })),
    schools: { closing: 'hand-and-quarter-turn', seals: 'new', order: 'all-out', tankWater: 'drain' },
  }
}

interface Score {
  all: number
  same: number
  alive: number
}

function mutate(job: Job, made: Made, score: Score): void {
  const whole = traceOf(
    job.train,
    made.visits.flatMap(({ steps }) => steps),
  )
  made.visits.forEach((visit, index) => {
    for (const mutant of mutantsOf(job.train, visit.steps)) {
      const visits = made.visits.map((one, at) => (at === index ? { ...one, steps: mutant.steps } : one))
      score.all += 1
      if (check({ ...job, visits, holds: made.holds }).findings.length > 0) continue
      if (
        traceOf(
          job.train,
          visits.flatMap(({ steps }) => steps),
        ) === whole
      ) {
        score.all -= 1
        score.same += 1
      } else score.alive += 1
    }
  })
}

/** Harms done to a job's sheet: by rule, how many there were and how many were named, by that rule or any other. */
function harm(job: Job, made: Made, scores: Map<RuleId, { all: number; named: number }>): void {
  made.visits.forEach((visit, index) => {
    for (const { rule, steps } of harmsOf(job.train, visit.steps)) {
      const visits = made.visits.map((one, at) => (at === index ? { ...one, steps } : one))
      const score = scores.get(rule) ?? { all: 0, named: 0 }
      score.all += 1
      if (check({ ...job, visits, holds: made.holds }).findings.length > 0) score.named += 1
      scores.set(rule, score)
    }
  })
}

const percentile = (values: number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(share * (values.length - 1))] as number

function timed(job: Job, times: number): number[] {
  return Array.from({ length: times }, () => {
    const from = performance.now()
    sheet(job)
    return performance.now() - from
  })
}

export function run(): boolean {
  const jobs = [...familyJobs(), ...Array.from({ length: TRAINS }, (_, index) => drawJob(index + 1))]
  const made = jobs.map((job) => sheet(job))
  const sound = jobs.filter((job, index) => {
    const one = made[index] as SheetResult
    return one.ok && passes(job, one)
  }).length
  const score: Score = { all: 0, same: 0, alive: 0 }
  jobs.slice(0, MUTATED).forEach((job, index) => {
    const one = made[index] as SheetResult
    if (one.ok) mutate(job, one, score)
  })
  const killed = 1 - score.alive / score.all
  const times = timed(twelve(), 200).slice(20)
  const [median, slow] = [percentile(times, 0.5), percentile(times, 0.99)]
  print('')
  row(`sheets that pass the checker, of ${jobs.length} (each family in full, drawn trains)`, String(sound), 'all', sound === jobs.length)
  row(
    `mutants named, of ${score.all} (${score.same} more hurt no more than their sheet)`,
    `${(100 * killed).toFixed(1)} %`,
    '>= 95 %',
    killed >= 0.95,
  )
  const scores = new Map<RuleId, { all: number; named: number }>()
  jobs.slice(0, MUTATED).forEach((job, index) => {
    const one = made[index] as SheetResult
    if (one.ok) harm(job, one, scores)
  })
  for (const [rule, { all, named }] of [...scores].sort(([a], [b]) => a.localeCompare(b)))
    row(`  harms by rule: ${rule}, of ${all}`, `${((100 * named) / all).toFixed(1)} %`, '>= 90 %', named / all >= 0.9)
  row('a sheet for twelve stages, all due: median, 99 in 100', `${median.toFixed(1)} ms, ${slow.toFixed(1)} ms`, '< 50 ms', slow < 50)
  return good
}
