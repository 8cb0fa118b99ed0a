import { drawTrain, seeded } from '../../simulate'
import { FAMILIES, sheet, type Train } from '..'
import { check, RULES, type RuleId } from '../check'
import { allDue, trainOf, USUAL } from '../testing'
import { harmsOf } from '.'

const trains: Train[] = [
  ...(Object.keys(FAMILIES) as (keyof typeof FAMILIES)[]).map(trainOf),
  ...Array.from({ length: 60 }, (_, seed) => drawTrain(seeded(seed + 500))),
]

/** Of each rule: how many harms there were, and which of them the checker did not name by it. */
function scores(): Map<RuleId, { all: number; missed: string[] }> {
  const byRule = new Map<RuleId, { all: number; missed: string[] }>()
  trains.forEach((train, which) => {
    const tasks = allDue(train)
    const made = sheet({ train, tasks, schools: USUAL })
    if (!made.ok) throw new Error(made.text)
    made.visits.forEach((visit, index) => {
      for (const { name, rule, steps } of harmsOf(train, visit.steps)) {
        const visits = made.visits.map((one, at) => (at === index ? { ...one, steps } : one))
        const score = byRule.get(rule) ?? { all: 0, missed: [] }
        score.all += 1
        if (check({ train, tasks, schools: USUAL, visits, holds: made.holds }).findings.length === 0) score.missed.push(`${which}: ${name}`)
        byRule.set(rule, score)
      }
    })
  })
  return byRule
}

/** What is held back after the visit is no step of it: the checker’s own tests take its holds away. */
test('of the harms of each rule at least nine in ten are named, and there are some of each', () => {
  const found = [...scores()]
  expect(found.map(([rule]) => rule).sort()).toEqual(RULES.filter((rule) => rule !== 'first-water').sort())
  for (const [rule, { all, missed }] of found)
    expect({ rule, missed: missed.length / all <= 0.1 ? [] : missed }).toEqual({ rule, missed: [] })
})
