import { drawTrain, seeded } from '../../simulate'
import {
  type Action,
  actionsFor,
  FAMILIES,
  type Family,
  familyTrain,
  type SheetSchools,
  type SheetVisit,
  sheet,
  stagesInFlow,
  type Task,
  type Train,
} from '..'
import { check } from '../check'
import { mutantsOf, traceOf } from '.'

const SCHOOLS: SheetSchools = { closing: 'hand-only', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }
const trains: [string, Train][] = [
  ...Object.entries(FAMILIES as Record<string, Family>).map(([name, family]): [string, Train] => [
    name,
    familyTrain(
      family,
      family.stages.map((_, index) => `s${index + 1}`),
    ),
  ]),
  ...Array.from({ length: 25 }, (_, seed): [string, Train] => [`drawn ${seed}`, drawTrain(seeded(seed + 1))]),
]

interface Score {
  all: number
  same: number
  alive: string[]
}

/** Mutants of one train's whole sheet that the checker lets pass, without those that hurt no more than the sheet itself. */
function score(name: string, train: Train, tasks: Task[]): Score {
  const made = sheet({ train, tasks, schools: SCHOOLS })
  if (!made.ok) throw new Error(made.text)
  const steps = (visits: readonly SheetVisit[]) => visits.flatMap((visit) => visit.steps)
  const good = traceOf(train, steps(made.visits))
  const found: Score = { all: 0, same: 0, alive: [] }
  made.visits.forEach((visit, index) => {
    for (const mutant of mutantsOf(train, visit.steps)) {
      const visits = made.visits.map((one, at) => (at === index ? { ...one, steps: mutant.steps } : one))
      if (check({ train, tasks, schools: SCHOOLS, visits, holds: made.holds }).findings.length > 0) found.all += 1
      else if (traceOf(train, steps(visits)) === good) found.same += 1
      else {
        found.all += 1
        found.alive.push(`${name}: ${mutant.name}`)
      }
    }
  })
  return found
}

test('a good sheet that lost, moved or misdirected one safety step is no longer good: 95 in 100 are named', () => {
  const scores = trains.map(([name, train]) =>
    score(
      name,
      train,
      stagesInFlow(train).map((stage) => ({ stage: stage.id, action: actionsFor(stage)[0] as Action })),
    ),
  )
  const all = scores.reduce((sum, one) => sum + one.all, 0)
  const same = scores.reduce((sum, one) => sum + one.same, 0)
  const alive = scores.flatMap((one) => one.alive)
  expect(all).toBeGreaterThan(1500)
  // Most of what is done to a sheet does hurt: the measure of harmlessness hides nothing.
  expect(same).toBeLessThan(0.2 * all)
  // Named here, so that a failure tells which ones.
  expect(alive.length <= 0.05 * all ? [] : alive).toEqual([])
})
