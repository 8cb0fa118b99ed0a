import { type Action, actionsFor, type SheetStep, type StageNode, sheet, type Task, type Train } from '.'
import { check } from './check'
import { trainOf, USUAL } from './testing'

const stage = (id: string, media: StageNode['media'], housing: StageNode['housing'], position: number): StageNode => ({
  id,
  kind: 'stage',
  media,
  housing,
  position,
  inletConfirmed: true,
})
const pipes = (...lines: string[]): Train['pipes'] =>
  lines.map((line) => {
    const [from = '', to = ''] = line.split('>')
    return { from, to }
  })

/** A well with iron, smell and acid water, its beds behind a bypass each, chlorine fed before them. */
const WELL: Train = {
  nodes: [
    { id: 'source', kind: 'source' },
    { id: 'feed', kind: 'valve', turns: 'quarter' },
    stage('s1', 'chlorine-feed', 'dry-slot', 1),
    stage('s2', 'iron-bed', 'media-tank', 2),
    stage('s3', 'ph-bed', 'media-tank', 3),
    { id: 'round-2', kind: 'bypass', enters: 's2', leaves: 's2' },
    { id: 'round-3', kind: 'bypass', enters: 's3', leaves: 's3' },
    { id: 'tap', kind: 'outlet', use: 'house' },
  ],
  pipes: pipes('source>feed', 'feed>s2', 's2>s3', 's3>tap'),
}
const SET: Train = {
  nodes: [
    { id: 'source', kind: 'source' },
    { id: 'feed', kind: 'valve', turns: 'quarter' },
    stage('s1', 'sediment-carbon', 'sump-small', 1),
    stage('s2', 'ultrafiltration', 'push-fit', 2),
    { id: 'tap', kind: 'outlet', use: 'drinking' },
  ],
  pipes: pipes('source>feed', 'feed>s1', 's1>s2', 's2>tap'),
}

function good(train: Train, tasks: Task[]): SheetStep[] {
  const made = sheet({ train, tasks, schools: USUAL })
  if (!made.ok) throw new Error(made.text)
  expect(check({ train, tasks, schools: USUAL, visits: made.visits, holds: made.holds }).findings).toEqual([])
  expect(made.visits).toHaveLength(1)
  return made.visits[0]?.steps ?? []
}
const spot = (steps: readonly SheetStep[], verb: SheetStep['verb'], at: string) =>
  steps.findIndex((step) => step.verb === verb && step.at[0] === at)
const said = (train: Train, tasks: Task[]): string =>
  good(train, tasks)
    .map(({ text, why, caution = '' }) => `${text} ${why} ${caution}`)
    .join('\n')

describe('a chlorine feed pump', () => {
  const works = actionsFor(WELL.nodes[2] as StageNode)
  test('its solution is filled up, its tube is changed', () => expect(works).toEqual(['refill', 'change']))
  test.each<Action>(['refill', 'change'])(
    '%s: off and its line relieved first; no water is shut; the residual is read at the end',
    (action) => {
      const steps = good(WELL, [{ stage: 's1', action }])
      const order = (['power-off', 'relieve', 'take-out', 'inspect', 'fit', 'power-on', 'measure'] as const).map((verb) =>
        spot(steps, verb, 's1'),
      )
      expect(order).toEqual([...order].sort((a, b) => a - b))
      expect(order[0]).toBeGreaterThan(-1)
      expect(steps.some(({ verb }) => ['close', 'turn', 'flush', 'catch', 'leak-check'].includes(verb))).toBe(false)
      const words = said(WELL, [{ stage: 's1', action }])
      expect(words).toContain('the same product')
      expect(words).toContain('no acid')
    },
  )
})

describe('beds', () => {
  test.each(['s2', 's3'])('%s is filled in its own bypass, backwashed by its head, then run to waste', (id) => {
    const steps = good(WELL, [{ stage: id, action: 'refill' }])
    expect(spot(steps, 'turn', `round-${id.slice(1)}`)).toBeLessThan(spot(steps, 'loosen', id))
    expect(spot(steps, 'backwash', id)).toBeGreaterThan(spot(steps, 'fit', id))
    expect(spot(steps, 'flush', id)).toBeGreaterThan(spot(steps, 'backwash', id))
    expect(steps.some(({ verb, at }) => verb === 'close' && at[0] === 'feed')).toBe(false)
  })
  test('a pH bed is filled up by its level: what is left stays in', () => {
    const words = said(WELL, [{ stage: 's3', action: 'refill' }])
    expect(words).toContain('how far the bed has sunk')
    expect(words).not.toContain('Tip the spent bed out')
    expect(words).not.toContain('Rinse the tank')
  })
})

describe('ultrafiltration behind a combined element', () => {
  const both: Task[] = ['s1', 's2'].map((id) => ({ stage: id, action: 'change' }))
  test('fines of the carbon go out by the line before it, never through it', () => {
    const steps = good(SET, both)
    expect(steps.find(({ verb, at }) => verb === 'flush' && at.includes('s1'))?.to).toBe('s1>s2')
    const onward = steps.map((step) => (step.verb === 'flush' && step.at.includes('s1') ? { ...step, to: 'tap' } : step))
    const { findings } = check({ train: SET, tasks: both, schools: USUAL, visits: [{ minGapHoursBefore: 0, steps: onward }], holds: [] })
    expect(findings.map(({ rule }) => rule)).toContain('onward')
  })
})

describe('a barrier opened on water that nobody chlorinates', () => {
  const holds = (train: Train, tasks: Task[], unchlorinated: boolean) => {
    const made = sheet({ train, tasks, schools: USUAL, unchlorinated })
    if (!made.ok) throw new Error(made.text)
    expect(check({ train, tasks, schools: USUAL, visits: made.visits, holds: made.holds }).findings).toEqual([])
    return made.holds.map(({ kind }) => kind)
  }
  const lit = trainOf('ultraviolet')
  test('the line behind it is disinfected before anybody drinks: until then boiled or bottled', () => {
    expect(holds(lit, [{ stage: 's3', action: 'clean' }], true)).toEqual(['boil-or-bottled'])
    expect(holds(SET, [{ stage: 's2', action: 'change' }], true)).toEqual(['boil-or-bottled'])
  })
  test('a lamp alone opens no water, and chlorinated water is safe behind it', () => {
    expect(holds(lit, [{ stage: 's4', action: 'change' }], true)).toEqual([])
    expect(holds(lit, [{ stage: 's3', action: 'clean' }], false)).toEqual([])
    const fed: Train = { ...SET, nodes: [...SET.nodes, stage('s3', 'chlorine-feed', 'dry-slot', 3)] }
    expect(holds(fed, [{ stage: 's2', action: 'change' }], true)).toEqual([])
  })
})
