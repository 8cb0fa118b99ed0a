import { planRound, roundCost } from '..'
import { drawRound } from '../drawn'
import { joinPlans, splitRound } from '.'

const input = drawRound(11, { visits: 160, days: 10, technicians: 4, rich: true })
const parts = splitRound(input)

test('each visit falls to one technician who may do it, linked ones to the same, with only the places they need', () => {
  const given = parts.flatMap((part) => part.input.visits.map(({ id }) => id))
  expect(new Set(given).size).toBe(given.length)
  expect([...given].sort()).toEqual(input.visits.map(({ id }) => id).sort())
  for (const { technician, input: own } of parts) {
    expect(own.technicians.map(({ id }) => id)).toEqual([technician])
    const skills = new Set(own.technicians[0]?.skills)
    for (const { skills: wanted = [], after, place } of own.visits) {
      expect(wanted.every((skill) => skills.has(skill))).toBe(true)
      if (after) expect(own.visits.map(({ id }) => id)).toContain(after.visit)
      const [here, there] = [own, input].map(({ places, travelMin, technicians }) => {
        const at = places.findIndex(({ id }) => id === place)
        const base = places.findIndex(({ id }) => id === technicians.find(({ id }) => id === technician)?.base)
        return travelMin[base]?.[at]
      })
      expect(here).toBe(there)
    }
  }
})

test('the parts put together are a whole plan that breaks nothing, and no dearer than the parts', () => {
  const plans = parts.map((part) => planRound(part.input, { iterations: 150 }))
  const whole = joinPlans(input, plans)
  expect(roundCost(input, whole).broken).toEqual([])
  const planned = whole.days.flatMap(({ stops }) => stops.length).reduce((sum, one) => sum + one, 0)
  expect(planned + whole.unplanned.length).toBe(input.visits.length)
  expect(whole.unplanned.length).toBeLessThanOrEqual(plans.reduce((sum, { unplanned }) => sum + unplanned.length, 0))
})

test('what found no place in its part goes to whoever has room', () => {
  // Everything lies nearest to the first: what does not fit there is not left out as long as another has the time.
  const narrow = drawRound(3, { visits: 12, days: 1, technicians: 2 })
  const crowded = { ...narrow, visits: narrow.visits.map((visit) => ({ ...visit, serviceMin: 60 })) }
  const first = { ...crowded, technicians: crowded.technicians.slice(0, 1) }
  const alone = planRound(first, { iterations: 100 })
  expect(alone.unplanned.length).toBeGreaterThan(0)
  expect(joinPlans(crowded, [alone]).unplanned.length).toBeLessThan(alone.unplanned.length)
})
