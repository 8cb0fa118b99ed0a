import fc from 'fast-check'
import type { OwnKind } from '../catalogue'
import { drawTrain, seeded } from '../simulate'
import { type Action, actionsFor, type SheetStep, type StageNode, sheet, stagesInFlow, type Task, type Train } from '.'
import { check } from './check'
import { USUAL } from './testing'

const CANDLE: OwnKind = {
  id: 'own:ceramic candle',
  name: 'ceramic candle',
  causes: ['calendar', 'pressure'],
  lifeMonths: 12,
  ratedLitres: null,
  soakHours: 0.5,
  flush: { litres: 6, minutes: 12, alone: true },
  endUp: 'arrow',
  cautions: ['Brittle: never by its neck.'],
}
const BED: OwnKind = {
  ...CANDLE,
  id: 'own:nitrate bed',
  name: 'nitrate bed',
  causes: ['throughput'],
  lifeMonths: null,
  ratedLitres: 90_000,
  soakHours: 12,
  flush: { litres: 60, minutes: 15, alone: false },
  cautions: [],
}

const stage = (id: string, media: StageNode['media'], housing: StageNode['housing'], position: number, own?: OwnKind): StageNode => ({
  id,
  kind: 'stage',
  media,
  housing,
  position,
  inletConfirmed: true,
  ...(own ? { own } : {}),
})
const pipes = (...nodes: string[]): Train['pipes'] => nodes.slice(1).map((to, index) => ({ from: nodes[index] as string, to }))

const SET: Train = {
  nodes: [
    { id: 'source', kind: 'source' },
    { id: 'feed', kind: 'valve', turns: 'quarter' },
    stage('s1', 'sediment', 'sump-small', 1),
    stage('s2', CANDLE.id, 'sump-small', 2, CANDLE),
    stage('s3', 'carbon-block', 'sump-small', 3),
    { id: 'tap', kind: 'outlet', use: 'drinking' },
  ],
  pipes: pipes('source', 'feed', 's1', 's2', 's3', 'tap'),
}
const HOUSE: Train = {
  nodes: [
    { id: 'source', kind: 'source' },
    { id: 'feed', kind: 'valve', turns: 'quarter' },
    stage('s1', BED.id, 'media-tank', 1, BED),
    { id: 'round', kind: 'bypass', enters: 's1', leaves: 's1' },
    { id: 'tap', kind: 'outlet', use: 'house' },
  ],
  pipes: pipes('source', 'feed', 's1', 'tap'),
}
const made = (train: Train, tasks: Task[]) => {
  const one = sheet({ train, tasks, schools: USUAL })
  if (!one.ok) throw new Error(one.text)
  return one
}
const findings = (train: Train, tasks: Task[], visits: { minGapHoursBefore: number; steps: SheetStep[] }[]) =>
  check({ train, tasks, schools: USUAL, visits, holds: made(train, tasks).holds }).findings

describe('a cartridge of the firm’s own kind', () => {
  const tasks: Task[] = [{ stage: 's2', action: 'change' }]
  const [visit] = made(SET, tasks).visits
  const steps = visit?.steps ?? []
  const at = (verb: SheetStep['verb']): number => steps.findIndex((step) => step.verb === verb && step.at.includes('s2'))

  test('one visit that the checker finds nothing in', () => expect(findings(SET, tasks, made(SET, tasks).visits)).toEqual([]))

  test('it soaks in a vessel from the beginning, before the water is stopped', () => {
    const soak = steps[at('soak')]
    expect(soak).toMatchObject({ to: 'vessel', hours: 0.5 })
    expect(soak?.text).toBe('Put the new ceramic candle to soak in a clean vessel of water; it goes in when its time is over')
    expect(at('soak')).toBeLessThan(steps.findIndex(({ verb }) => verb === 'close'))
  })

  test('it is flushed alone, out of the line behind it, for its own minutes and litres', () => {
    expect(steps[at('flush')]).toMatchObject({ at: ['s2'], to: 's2>s3', minutes: 12, litres: 6 })
  })

  test('its name, its end and its caution stand on the step that fits it', () => {
    expect(steps[at('fit')]).toMatchObject({
      text: 'Fit the new ceramic candle, the end marked with the arrow up, along the flow',
      caution: 'Brittle: never by its neck.',
    })
  })

  test.each([
    ['never soaked', 'soak', (all: SheetStep[]) => all.filter(({ verb }) => verb !== 'soak')],
    ['flushed too short', 'alone', (all: SheetStep[]) => all.map((step) => (step.verb === 'flush' ? { ...step, minutes: 6 } : step))],
    ['never flushed', 'onward', (all: SheetStep[]) => all.filter(({ verb }) => verb !== 'flush')],
    ['flushed into the carbon', 'onward', (all: SheetStep[]) => all.map((step) => (step.verb === 'flush' ? { ...step, to: 'tap' } : step))],
  ])('%s is named', (_, rule, harm) => {
    expect(findings(SET, tasks, [{ minGapHoursBefore: 0, steps: harm(steps) }]).map((finding) => finding.rule)).toContain(rule)
  })

  test('one that nobody described is flushed alone and not soaked', () => {
    const unknown: Train = {
      ...SET,
      nodes: SET.nodes.map((node) => (node.id === 's2' ? stage('s2', 'own:found here', 'sump-small', 2) : node)),
    }
    const all = made(unknown, tasks).visits.flatMap((one) => one.steps)
    expect(all.some(({ verb }) => verb === 'soak')).toBe(false)
    expect(all.find(({ verb }) => verb === 'flush')).toMatchObject({ at: ['s2'], to: 's2>s3', minutes: 10 })
  })

  test('one that soaks longer than a visit lasts comes soaked', () => {
    const long: Train = {
      ...SET,
      nodes: SET.nodes.map((node) => (node.id === 's2' ? { ...node, own: { ...CANDLE, soakHours: 24 } } : node) as typeof node),
    }
    const soak = made(long, tasks).visits[0]?.steps.find(({ verb }) => verb === 'soak')
    expect(soak).toMatchObject({ hours: 24, minutes: 1 })
    expect(soak?.text).toMatch(/has stood in clean water for its hours; otherwise it is put to soak and fitted another day/)
  })
})

describe('a bed of the firm’s own kind', () => {
  const tasks: Task[] = [{ stage: 's1', action: 'refill' }]
  const { visits, holds } = made(HOUSE, tasks)

  test('it soaks its own hours in the tank, the house on the bypass, and is run at a second visit', () => {
    expect(findings(HOUSE, tasks, visits)).toEqual([])
    expect(visits.map(({ minGapHoursBefore }) => minGapHoursBefore)).toEqual([0, 12])
    const [first, second] = visits.map(({ steps }) => steps.map(({ verb }) => verb))
    expect(first?.at(first.indexOf('soak') - 1)).not.toBe('flush')
    expect(second).toEqual(expect.arrayContaining(['trickle', 'backwash', 'flush']))
    expect(holds.map(({ kind }) => kind)).toEqual(['low-flow'])
  })

  test('a second visit that comes too soon is named', () => {
    const soon = visits.map((visit, index) => (index === 1 ? { ...visit, minGapHoursBefore: 6 } : visit))
    expect(findings(HOUSE, tasks, soon).map(({ rule }) => rule)).toContain('soak')
  })
})

/** Any kind a firm could name. */
const anyKind = fc.record({
  soakHours: fc.constantFrom(null, 0.5, 24),
  flush: fc.option(fc.record({ litres: fc.constantFrom(2, 8, 40), minutes: fc.constantFrom(3, 10, 15), alone: fc.boolean() })),
  endUp: fc.constantFrom('washer', 'arrow', 'either'),
  cautions: fc.constantFrom<string[]>([], ['As its label says.']),
})

test('whatever a firm names and wherever it sits: its sheet is made and passes the checker', () => {
  let seen = 0
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 1e9 }), anyKind, fc.boolean(), (seed, kind, everything) => {
      const rng = seeded(seed)
      const own: OwnKind = { ...CANDLE, ...kind, id: 'own:kind', name: 'kind' }
      const drawn = drawTrain(rng, 8)
      const nodes = drawn.nodes.map((node) =>
        node.kind === 'stage' && PLACES.includes(node.housing) && rng.chance(0.4) && node.media !== 'membrane'
          ? { ...node, media: own.id, own, washable: false }
          : node,
      )
      const train = { ...drawn, nodes }
      const mine = stagesInFlow(train).filter((one) => one.own !== undefined)
      const due = stagesInFlow(train).filter((one) => everything || one.own !== undefined)
      if (mine.length === 0) return
      const tasks = due.map((one) => ({ stage: one.id, action: actionsFor(one)[0] as Action }))
      const result = sheet({ train, tasks, schools: USUAL })
      if (!result.ok) return
      seen += 1
      expect(check({ train, tasks, schools: USUAL, visits: result.visits, holds: result.holds }).findings).toEqual([])
    }),
    { numRuns: 400 },
  )
  expect(seen).toBeGreaterThan(100)
})
const PLACES: readonly StageNode['housing'][] = ['sump-small', 'sump-large', 'quarter-turn', 'push-fit', 'threaded', 'media-tank']
