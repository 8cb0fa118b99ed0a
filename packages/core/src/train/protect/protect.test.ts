import fc from 'fast-check'
import { drawTrain, seeded } from '../../simulate'
import type { SheetSchools, Train } from '..'
import { FAMILIES, type Family, familyTrain } from '..'
import { check } from '../check'
import { type ProtectOptions, protection } from '.'

const NAMES = Object.keys(FAMILIES) as (keyof typeof FAMILIES)[]
const trainOf = (name: (typeof NAMES)[number]): Train => {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}
const SCHOOLS: SheetSchools = { closing: 'hand-and-quarter-turn', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }
const HOUSE: ProtectOptions = { schools: SCHOOLS, heater: 'bypass', own: false, contactHours: 12 }
const anySchools: fc.Arbitrary<SheetSchools> = fc.record({
  closing: fc.constantFrom('hand-only', 'hand-and-quarter-turn'),
  place: fc.constantFrom('in-place', 'at-the-bench'),
  seals: fc.constantFrom('reuse', 'new'),
  order: fc.constantFrom('one-at-a-time', 'all-out'),
  tankWater: fc.constantFrom('keep', 'drain'),
}) as fc.Arbitrary<SheetSchools>

test.each(NAMES)('%s: protected and brought back without a finding, in a house and as a job of its own', (name) => {
  for (const own of [false, true]) {
    const made = protection(trainOf(name), { ...HOUSE, own })
    if (made.cannot.length === 0) expect(made.findings).toEqual([])
  }
})

test('any train: either it says what is missing, or the machine finds nothing wrong', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 2 ** 31 - 1 }),
      anySchools,
      fc.boolean(),
      fc.constantFrom('bypass', 'include'),
      (seed, schools, own, heater) => {
        const made = protection(drawTrain(seeded(seed)), { ...HOUSE, schools, own, heater })
        if (made.cannot.length === 0) expect(made.findings).toEqual([])
      },
    ),
    { numRuns: 250 },
  )
})

test('a reverse-osmosis unit is shut off and keeps its tank; nothing is taken out of it', () => {
  const made = protection(trainOf('reverse-osmosis-5'), HOUSE)
  expect(made).toMatchObject({ way: 'shut-off', cannot: [], tasks: [] })
  expect(made.before.map(({ verb, at }) => [verb, at[0]])).toEqual([
    ['tell', 'tap'],
    ['close', 'feed-valve'],
  ])
  expect(made.after.map(({ verb, at }) => [verb, at[0]])).toEqual([
    ['strip', 'source'],
    ['open', 'feed-valve'],
    ['leak-check', 'feed-valve'],
    ['open', 'feed-valve'],
    ['leak-check', 'feed-valve'],
  ])
})

test('as a job of its own everything comes out, membrane and inline body too', () => {
  const made = protection(trainOf('reverse-osmosis-5'), { ...HOUSE, own: true })
  expect(made.tasks.map(({ stage }) => stage)).toEqual(['s1', 's2', 's3', 's4', 's5'])
  expect(made.before.some(({ verb, at }) => verb === 'fit' && at[0] === 's5.spacer')).toBe(true)
})

test('whole-house: elements out, lamp on; beds go round', () => {
  expect(protection(trainOf('ultraviolet'), HOUSE).things.map(({ id, what }) => [id, what])).toEqual([
    ['s1', 'out'],
    ['s2', 'out'],
    ['s4', 'stays'],
  ])
  expect(protection(trainOf('carbon-tank'), HOUSE).things.map(({ id, what }) => [id, what])).toEqual([
    ['s2', 'bypass'],
    ['s1', 'out'],
  ])
})

test('a softener without a bypass stops the job, in words', () => {
  const { nodes, pipes } = trainOf('softener')
  const without: Train = { nodes: nodes.filter(({ kind }) => kind !== 'bypass'), pipes }
  expect(protection(without, HOUSE).cannot).toEqual(['No bypass goes round the softener: put one in, or leave this system shut off.'])
})

describe('what would go wrong is named', () => {
  const train = trainOf('ultraviolet')
  const { before, after, tasks } = protection(train, HOUSE)
  const dose = { ...(before[0] as (typeof before)[number]), key: 'dose', verb: 'dose' as const, at: ['source'] }
  const rules = (first: typeof before, second: typeof after): string[] =>
    check({
      train,
      tasks,
      schools: SCHOOLS,
      visits: [
        { minGapHoursBefore: 0, steps: first },
        { minGapHoursBefore: 12, steps: second },
      ],
    }).findings.map(({ rule }) => rule)

  test('a dose before the carbon is out', () => expect(rules([dose, ...before], after)).toContain('chlorine'))
  test('a new carbon while the dose is still in', () =>
    expect(
      rules(
        [...before, dose],
        after.filter(({ verb }) => verb !== 'strip'),
      ),
    ).toContain('chlorine'))
  test('a heater that heats in the dose, and one switched on dry', () => {
    const hot: Train = {
      nodes: [
        { id: 'source', kind: 'source' },
        { id: 'stop', kind: 'valve', turns: 'quarter' },
        { id: 'heater', kind: 'heater' },
        { id: 'hot', kind: 'outlet', use: 'house' },
      ],
      pipes: [
        { from: 'source', to: 'stop' },
        { from: 'stop', to: 'heater' },
        { from: 'heater', to: 'hot' },
      ],
    }
    const found = (steps: typeof before): string[] =>
      check({ train: hot, tasks: [], schools: SCHOOLS, visits: [{ minGapHoursBefore: 0, steps }] }).findings.map(({ rule }) => rule)
    const step = (verb: (typeof dose)['verb'] | 'power-on' | 'close', at: string) => ({
      ...dose,
      key: `${verb}/${at}`,
      verb: verb as 'dose',
      at: [at],
    })
    expect(found([dose])).toContain('chlorine')
    expect(found([step('close', 'stop'), step('power-on', 'heater')])).toContain('dry-heat')
    const made = protection(hot, { ...HOUSE, heater: 'include' })
    expect(made.cannot).toEqual([])
    expect(made.findings).toEqual([])
    expect(made.things[0]?.what).toBe('heater-off')
    expect(protection(hot, HOUSE).cannot).toEqual(['No bypass goes round the water heater: include it, or put one in.'])
  })
})
