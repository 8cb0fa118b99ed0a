import { type SheetSchools, type SheetStep, sheet, type Task, type Train } from '..'
import { allDue as all, trainOf as family, USUAL } from '../testing'
import { check, type RuleId } from '.'

type Step = Pick<SheetStep, 'key' | 'verb' | 'at' | 'to' | 'minutes' | 'litres' | 'hours'>

/** The rules that a good sheet breaks once some of its steps were changed. */
function broken(train: Train, change: (steps: Step[]) => Step[], tasks = all(train), schools = USUAL): RuleId[] {
  const made = sheet({ train, tasks, schools })
  if (!made.ok) throw new Error(made.text)
  expect(check({ train, tasks, schools, visits: made.visits, holds: made.holds }).findings).toEqual([])
  const visits = made.visits.map((visit) => ({ ...visit, steps: change(visit.steps) }))
  expect(visits).not.toEqual(made.visits)
  return [...new Set(check({ train, tasks, schools, visits, holds: made.holds }).findings.map(({ rule }) => rule))]
}
const where =
  (verb: Step['verb'], at: string | null, patch: Partial<Step>) =>
  (steps: Step[]): Step[] =>
    steps.map((step) => (step.verb === verb && (at === null || step.at.includes(at)) ? { ...step, ...patch } : step))
const without =
  (verb: Step['verb'], at: string) =>
  (steps: Step[]): Step[] =>
    steps.filter((step) => !(step.verb === verb && step.at.includes(at)))
const before = (pick: (step: Step) => boolean, added: Partial<Step> & Pick<Step, 'verb' | 'at'>) => (steps: Step[]) =>
  steps.flatMap((step, index) =>
    pick(step) && !steps.slice(0, index).some(pick) ? [{ key: 'added', minutes: 1, ...added }, step] : [step],
  )

describe('amounts', () => {
  const osmosis = family('reverse-osmosis-5')
  const tank = family('carbon-tank')
  test.each<[string, Train, (steps: Step[]) => Step[]]>([
    ['carbon flushed for no time', osmosis, where('flush', 's3', { minutes: 0, litres: 0 })],
    ['carbon flushed for five minutes', osmosis, where('flush', 's3', { minutes: 5 })],
    ['the membrane flushed by two litres', osmosis, where('flush', 's4', { litres: 2 })],
    ['fifty litres through the drinking tap in five minutes', osmosis, where('flush', 's5', { litres: 50 })],
    ['a bed that soaks for a night', tank, where('soak', null, { hours: 12 })],
    ['a bed trickled for five minutes', tank, where('trickle', null, { minutes: 5 })],
    ['a bed backwashed for no time', tank, where('backwash', null, { minutes: 0 })],
  ])('%s', (_, train, change) => expect(broken(train, change)).toContain('amount'))

  test('a tank is emptied at the pace of its tap', () => {
    const cistern: Train = { ...osmosis, nodes: osmosis.nodes.map((node) => (node.kind === 'tank' ? { ...node, volumeL: 1000 } : node)) }
    const drained: SheetSchools = { ...USUAL, tankWater: 'drain' }
    expect(broken(cistern, where('drain', 'tank', { minutes: 6 }), all(cistern), drained)).toEqual(['amount'])
    const made = sheet({ train: cistern, tasks: all(cistern), schools: drained })
    // A drinking tap gives about two litres a minute.
    expect(made.ok && made.visits[0]?.steps.find(({ verb }) => verb === 'drain')).toMatchObject({ minutes: 500, litres: 1000 })
  })
  test('an outlet of a measured flow takes its time for what is flushed', () => {
    const slow: Train = { ...osmosis, nodes: osmosis.nodes.map((node) => (node.kind === 'outlet' ? { ...node, flowLMin: 0.5 } : node)) }
    const made = sheet({ train: slow, tasks: all(slow), schools: USUAL })
    expect(made.ok && made.visits[0]?.steps.find(({ verb, to }) => verb === 'flush' && to === 'tap')).toMatchObject({
      minutes: 8,
      litres: 4,
    })
    expect(broken(slow, where('flush', 's5', { minutes: 5 }))).toEqual(['amount'])
  })
  test('holds have their hours', () => {
    const made = sheet({ train: tank, tasks: all(tank), schools: USUAL })
    if (!made.ok) throw new Error(made.text)
    const short = made.holds.map((hold) => ({ ...hold, hours: 24 }))
    const { findings } = check({ train: tank, tasks: all(tank), schools: USUAL, visits: made.visits, holds: short })
    expect(findings.map(({ rule, text }) => [rule, text])).toEqual([['amount', 'the hold low-flow ends after 24 hours']])
  })
})

describe('pumps', () => {
  /** A booster between two valves, before two large housings and a lamp. */
  const plain = family('ultraviolet')
  const boosted: Train = {
    nodes: [...plain.nodes, { id: 'booster', kind: 'pump', type: 'booster' }, { id: 'behind', kind: 'valve', turns: 'quarter' }],
    pipes: [
      { from: 'source', to: 'feed-valve' },
      { from: 'feed-valve', to: 'booster' },
      { from: 'booster', to: 'behind' },
      { from: 'behind', to: 's1' },
      ...plain.pipes.filter(({ from }) => from !== 'source' && from !== 'feed-valve'),
    ],
  }
  test('its inlet shut while it runs: it runs dry', () => {
    const dry = before(({ verb }) => verb === 'power-off', { verb: 'close', at: ['feed-valve'] })
    expect(broken(boosted, dry)).toContain('dry-run')
  })
  test('an hour against a shut valve', () => {
    const hour = before(({ verb }) => verb === 'power-off', { verb: 'close', at: ['behind'], minutes: 60 })
    expect(broken(boosted, hour)).toContain('dry-run')
  })
  test('a bed that stands full without a bypass: the well’s pump is off until the second visit', () => {
    const bed = family('carbon-tank')
    const well: Train = {
      nodes: [...bed.nodes.filter(({ kind }) => kind !== 'bypass'), { id: 'pump', kind: 'pump', type: 'well' }],
      pipes: [{ from: 'source', to: 'pump' }, { from: 'pump', to: 'feed-valve' }, ...bed.pipes.filter(({ from }) => from !== 'source')],
    }
    const tasks: Task[] = [{ stage: 's2', action: 'refill' }]
    const made = sheet({ train: well, tasks, schools: USUAL })
    if (!made.ok) throw new Error(made.text)
    expect(check({ train: well, tasks, schools: USUAL, visits: made.visits, holds: made.holds })).toMatchObject({
      findings: [],
      end: { withoutPower: [] },
    })
    const power = made.visits.map(({ steps }) => steps.filter(({ at }) => at[0] === 'pump').map(({ verb }) => verb))
    expect(power.map((verbs) => verbs.at(-1))).toEqual(['power-off', 'power-on'])
  })
})

describe('lamps', () => {
  const lit = family('ultraviolet')
  const lampAlone: Task[] = [{ stage: 's4', action: 'change' }]
  test('nobody told that the water is not disinfected', () => {
    expect(broken(lit, without('tell', 'tap'), lampAlone)).toContain('dark-lamp')
  })
  test('no warming up', () => {
    expect(broken(lit, without('wait', 's4'))).toEqual(['dark-lamp'])
    expect(broken(lit, where('wait', 's4', { minutes: 0 }))).toEqual(['dark-lamp'])
  })
  test('of two reactors the one that is opened is the one that is dark', () => {
    const reactor = (id: string, media: 'uv-lamp' | 'uv-sleeve', position: number, word: string): Train['nodes'][number] => ({
      id,
      kind: 'stage',
      media,
      housing: 'uv-reactor',
      position,
      reactor: word,
      inletConfirmed: true,
    })
    const two: Train = {
      nodes: [
        { id: 'source', kind: 'source' },
        { id: 'valve', kind: 'valve', turns: 'quarter' },
        reactor('a1', 'uv-sleeve', 1, 'one'),
        reactor('a2', 'uv-lamp', 2, 'one'),
        reactor('b1', 'uv-sleeve', 3, 'two'),
        reactor('b2', 'uv-lamp', 4, 'two'),
        { id: 'tap', kind: 'outlet', use: 'house' },
      ],
      pipes: ['source>valve', 'valve>a1', 'a1>a2', 'a2>b1', 'b1>b2', 'b2>tap'].map((line) => {
        const [from = '', to = ''] = line.split('>')
        return { from, to }
      }),
    }
    const tasks: Task[] = [{ stage: 'b1', action: 'clean' }]
    const made = sheet({ train: two, tasks, schools: USUAL })
    if (!made.ok) throw new Error(made.text)
    const named = made.visits[0]?.steps.filter(({ verb }) => verb === 'power-off' || verb === 'power-on')
    expect(named?.map(({ verb, at }) => `${verb} ${at}`)).toEqual(['power-off b2', 'power-on b2'])
    expect(named?.[0]?.text).toBe('Unplug the ballast of the lamp chamber “two” and see that it is dark')
    expect(broken(two, where('power-off', 'b2', { at: ['a2'] }), tasks)).toContain('power')
  })
})

describe('heaters', () => {
  /** A house whose taps are cold and hot. */
  const plain = family('two-large')
  const house: Train = {
    nodes: [...plain.nodes, { id: 'tee', kind: 'tee' }, { id: 'heater', kind: 'heater' }, { id: 'hot', kind: 'outlet', use: 'house' }],
    pipes: [
      ...plain.pipes.filter(({ to }) => to !== 'tap'),
      { from: 's2', to: 'tee' },
      { from: 'tee', to: 'tap' },
      { from: 'tee', to: 'heater' },
      { from: 'heater', to: 'hot' },
    ],
  }
  test('a hot tap is no relief', () => {
    expect(broken(house, where('relieve', 'tap', { at: ['hot'] }))).toContain('scald')
  })
  test('fines do not run out by it either', () => {
    const hotly = (steps: Step[]): Step[] =>
      before(({ verb }) => verb === 'flush', { verb: 'open', at: ['hot'] })(where('flush', 's1', { to: 'hot' })(steps))
    expect(broken(house, hotly)).toContain('follow')
  })
})
