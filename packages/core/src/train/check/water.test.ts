import { addOutlet, removeNode, type SheetStep, sheet, type Task, type Train } from '..'
import { allDue as all, trainOf as family, USUAL } from '../testing'
import { check } from '.'

const made = (train: Train, tasks = all(train)) => {
  const result = sheet({ train, tasks, schools: USUAL })
  if (!result.ok) throw new Error(result.text)
  return result
}
/** Findings as "rule at step" for a good sheet whose first visit was changed. */
function found(train: Train, change: (steps: SheetStep[]) => SheetStep[], tasks = all(train)): string[] {
  const good = made(train, tasks)
  const visits = good.visits.map((visit, index) => (index === 0 ? { ...visit, steps: change(visit.steps) } : visit))
  return check({ train, tasks, schools: USUAL, visits, holds: good.holds }).findings.map(({ rule, step }) => `${rule} at ${step}`)
}
const step = (verb: SheetStep['verb'], at: string, to?: string): SheetStep => ({
  n: 0,
  key: `added ${verb} ${at}`,
  verb,
  at: [at],
  ...(to === undefined ? {} : { to }),
  text: 'x',
  why: 'y',
  minutes: 1,
  tools: [],
  consumables: [],
  block: 'Flush',
})
const insert = (steps: SheetStep[], before: (one: SheetStep) => boolean, ...added: SheetStep[]): SheetStep[] => {
  const index = steps.findIndex(before)
  if (index < 0) throw new Error('the sheet has no such step')
  return [...steps.slice(0, index), ...added, ...steps.slice(index)]
}

describe('water is followed at every step that moves it', () => {
  test('the tank reopened before the membrane is flushed', () => {
    const osmosis = family('reverse-osmosis-5')
    const early = (steps: SheetStep[]) =>
      insert(steps, ({ verb, at }) => verb === 'flush' && at.includes('s4'), step('open', 'tank', 'half'))
    expect(found(osmosis, early)).toContain('follow at added open tank')
  })
  test('the ice maker left open while a new carbon runs', () => {
    const cold = addOutlet(family('under-sink-3'), { tee: 'cold-tee', outlet: 'ice' }, 'ice')
    const open = (steps: SheetStep[]) => insert(steps, ({ verb, at }) => verb === 'flush' && at.includes('s3'), step('open', 'ice'))
    expect(found(cold, open).some((one) => one.startsWith('follow at'))).toBe(true)
  })
  test('the line put back before the carbon in front of the membrane is flushed', () => {
    const osmosis = family('reverse-osmosis-5')
    const back = (steps: SheetStep[]) => insert(steps, ({ verb, at }) => verb === 'flush' && at.includes('s3'), step('connect', 's3>s4'))
    expect(found(osmosis, back).some((one) => one.startsWith('follow at'))).toBe(true)
  })
})

describe('what fills has a way out open', () => {
  const bed = family('carbon-tank')
  test('a bed is filled with a tap running before it soaks', () => {
    const steps = made(bed).visits[0]?.steps ?? []
    const at = (verb: SheetStep['verb'], id: string, from = 0): number =>
      steps.findIndex((one, index) => index >= from && one.verb === verb && one.at[0] === id)
    const soak = at('soak', 's2')
    const air = at('open', 'tap', at('close-housing', 's2'))
    expect(air).toBeGreaterThan(0)
    expect(at('close', 'tap', air)).toBeLessThan(soak)
    expect(steps.slice(air, soak).map(({ verb }) => verb)).toContain('turn')
    expect(found(bed, (own) => own.filter(({ key }) => !key.includes('soak-air/open')))).toContain(`vent at ${steps[soak]?.key}`)
  })
  test('a lamp is lit in a full chamber', () => {
    const lit = family('ultraviolet')
    const sleeve: Task[] = [{ stage: 's3', action: 'clean' }]
    const shut = (steps: SheetStep[]) => steps.filter(({ verb, at }) => !(verb === 'open' && at[0] === 'tap'))
    expect(found(lit, (steps) => steps, sleeve)).toEqual([])
    expect(found(lit, shut, sleeve).some((one) => one.startsWith('vent at'))).toBe(true)
    // A lamp whose sleeve nobody drew lets no water go when its cap comes off.
    expect(found(removeNode(lit, 's3'), (steps) => steps, [{ stage: 's4', action: 'change' }])).toEqual([])
  })
})
