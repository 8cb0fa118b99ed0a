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

describe('what a bypass carries', () => {
  /** A bypass drawn round some of a family's stages. */
  const around = (train: Train, enters: string, leaves: string): Train => ({
    ...train,
    nodes: [...train.nodes, { id: 'round', kind: 'bypass', enters, leaves }],
  })
  const first = (added: SheetStep) => (steps: SheetStep[]) => [
    ...steps.slice(0, 1),
    added,
    step('turn', 'round', 'service'),
    step('leak-check', 'round'),
    ...steps.slice(1),
  ]
  test('chlorinated water is not carried round the carbons to a membrane', () => {
    // Sediment and two carbons stand before the membrane: round the sediment alone nothing is lost.
    const osmosis = family('reverse-osmosis-5')
    const tasks: Task[] = [{ stage: 's5', action: 'change' }]
    const turned = first(step('turn', 'round', 'bypass'))
    expect(found(around(osmosis, 's2', 's3'), turned, tasks)).toContain('chlorine at added turn round')
    expect(found(around(osmosis, 's1', 's1'), turned, tasks)).toEqual([])
  })
  test('nobody drinks round a lamp untold', () => {
    const lit = family('ultraviolet')
    const tasks: Task[] = [{ stage: 's1', action: 'change' }]
    expect(found(around(lit, 's3', 's4'), first(step('turn', 'round', 'bypass')), tasks)).toContain('dark-lamp at added turn round')
  })
})

test('a bed is not backwashed up the drain of another stage', () => {
  const bed = family('carbon-tank')
  const twice: Train = {
    nodes: [...bed.nodes, { id: 'other-drain', kind: 'drain' }],
    pipes: [...bed.pipes, { from: 's1', to: 'other-drain' }],
  }
  const good = made(twice)
  const wash = good.visits[1]?.steps.find(({ verb }) => verb === 'backwash')
  const into = (to: string) =>
    check({
      train: twice,
      tasks: all(twice),
      schools: USUAL,
      visits: good.visits.map((visit) => ({ ...visit, steps: visit.steps.map((one) => (one === wash ? { ...one, to } : one)) })),
      holds: good.holds,
    }).findings.map(({ rule }) => rule)
  expect(into(wash?.to as string)).toEqual([])
  expect(into('other-drain')).toEqual(['follow'])
})
