import fc from 'fast-check'
import { drawTrain, seeded } from '../simulate'
import {
  type Action,
  actionsFor,
  FAMILIES,
  type Family,
  familyTrain,
  type SheetSchools,
  type SheetStep,
  sheet,
  stagesInFlow,
  type Task,
  type Train,
  type Verb,
} from '.'
import { check } from './check'

type Name = keyof typeof FAMILIES
const NAMES = Object.keys(FAMILIES) as Name[]
const trainOf = (name: Name): Train => {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}
const USUAL: SheetSchools = { closing: 'hand-and-quarter-turn', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }

function made(train: Train, tasks: Task[], schools: SheetSchools = USUAL) {
  const result = sheet({ train, tasks, schools })
  if (!result.ok) throw new Error(result.text)
  return result
}
/** The usual work on these stages of a family, all of them where none is named. */
function usual(train: Train, ...ids: string[]): Task[] {
  return stagesInFlow(train)
    .filter(({ id }) => ids.length === 0 || ids.includes(id))
    .map((stage) => ({ stage: stage.id, action: actionsFor(stage)[0] as Action }))
}
const stepsOf = (train: Train, tasks: Task[], schools = USUAL): SheetStep[] =>
  made(train, tasks, schools).visits.flatMap(({ steps }) => steps)
const spot = (steps: readonly SheetStep[], verb: Verb, at?: string, to?: string): number =>
  steps.findIndex((step) => step.verb === verb && (at === undefined || step.at.includes(at)) && (to === undefined || step.to === to))

const anySchools: fc.Arbitrary<SheetSchools> = fc.record({
  closing: fc.constantFrom('hand-only', 'hand-and-quarter-turn'),
  place: fc.constantFrom('in-place', 'at-the-bench'),
  seals: fc.constantFrom('reuse', 'new'),
  order: fc.constantFrom('one-at-a-time', 'all-out'),
  tankWater: fc.constantFrom('keep', 'drain'),
}) as fc.Arbitrary<SheetSchools>

/** Some stages of a train due, each with something that can be done to it. */
const someTasks = (train: Train): fc.Arbitrary<Task[]> =>
  fc
    .subarray(stagesInFlow(train), { minLength: 1 })
    .chain((stages) =>
      fc.tuple(...stages.map((stage) => fc.constantFrom(...actionsFor(stage)).map((action) => ({ stage: stage.id, action })))),
    )

function passes(train: Train, tasks: Task[], schools: SheetSchools): void {
  const { visits, holds } = made(train, tasks, schools)
  const { findings, end } = check({ train, tasks, schools, visits, holds })
  expect(findings).toEqual([])
  expect(Object.values(end.valves).every((valve) => valve === 'open')).toBe(true)
  expect(Object.values(end.stages).every(({ housing, element }) => housing === 'closed' && element !== 'none')).toBe(true)
  expect([end.linesOff, end.withoutPower, end.inBypass]).toEqual([[], [], []])
}

test.each(NAMES)('%s: any stages due, any action, any school: the sheet passes and leaves service', (name) => {
  const train = trainOf(name)
  fc.assert(
    fc.property(someTasks(train), anySchools, (tasks, schools) => passes(train, tasks, schools)),
    { numRuns: 30 },
  )
})

test('any train somebody could have plumbed: the sheet passes and leaves service', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 2 ** 31 - 1 }).chain((seed) => {
        const train = drawTrain(seeded(seed))
        return fc.record({ train: fc.constant(train), tasks: someTasks(train), schools: anySchools })
      }),
      ({ train, tasks, schools }) => passes(train, tasks, schools),
    ),
    { numRuns: 250 },
  )
})

test('the same input gives the same sheet, and a key names the same act whatever else is due', () => {
  fc.assert(
    fc.property(fc.constantFrom(...NAMES), anySchools, (name, schools) => {
      const train = trainOf(name)
      const all = usual(train)
      expect(made(train, all, schools)).toEqual(made(train, all, schools))
      const few = stepsOf(train, all.slice(0, 1), schools)
      const byKey = new Map(stepsOf(train, all, schools).map((step) => [step.key, step]))
      for (const { key, verb, at } of few) {
        const twin = byKey.get(key)
        if (twin && verb !== 'flush') expect({ verb: twin.verb, at: twin.at }).toEqual({ verb, at })
      }
    }),
  )
})

describe('a whole-house carbon tank', () => {
  const train = trainOf('carbon-tank')
  const { visits, holds } = made(train, usual(train))
  const [first, second] = visits

  test('two visits: filled, bypassed and soaked in the first; trickled, then backwashed, 48 hours later', () => {
    expect(visits).toHaveLength(2)
    const steps = first?.steps ?? []
    expect(spot(steps, 'open', 'feed-valve', 'full')).toBeLessThan(spot(steps, 'turn', 'bypass', 'bypass'))
    expect(spot(steps, 'turn', 'bypass', 'bypass')).toBeLessThan(spot(steps, 'soak', 's2'))
    expect(steps.find(({ verb }) => verb === 'soak')?.hours).toBe(48)
    expect(spot(steps, 'trickle')).toBe(-1)
    expect(second?.minGapHoursBefore).toBe(48)
    const later = second?.steps ?? []
    expect(spot(later, 'turn', 'bypass', 'service')).toBeLessThan(spot(later, 'trickle', 's2'))
    expect(spot(later, 'trickle', 's2')).toBeLessThan(spot(later, 'backwash', 's2'))
    expect([later.find(({ verb }) => verb === 'trickle')?.minutes, later.find(({ verb }) => verb === 'backwash')?.minutes]).toEqual([30, 3])
  })

  test('the house stands without water for the prefilter alone: the bed is worked on in its bypass, and the customer hears of both', () => {
    const steps = first?.steps ?? []
    expect(steps.filter(({ verb, at }) => verb === 'close' && at[0] === 'feed-valve')).toHaveLength(1)
    const turned = spot(steps, 'turn', 'bypass', 'bypass')
    expect(spot(steps, 'flush', 's1')).toBeLessThan(turned)
    expect(turned).toBeLessThan(spot(steps, 'loosen', 's2'))
    expect(steps.find(({ verb }) => verb === 'tell')?.text).toMatch(
      /^Say that the tap is out of use for about 15 minutes; then the water goes round the set, untreated, for about \d+ minutes$/,
    )
  })

  test('low flow for 72 hours, told at the second visit', () => {
    expect(holds.map(({ kind, hours }) => [kind, hours])).toEqual([['low-flow', 72]])
    expect(spot(second?.steps ?? [], 'hold', undefined, 'low-flow')).toBeGreaterThan(-1)
  })

  test('without a bypass the house goes without water while the bed soaks, and is told', () => {
    const bare: Train = { ...train, nodes: train.nodes.filter(({ kind }) => kind !== 'bypass') }
    const sheetOf = made(bare, usual(bare))
    expect(sheetOf.holds.map(({ kind }) => kind)).toEqual(['do-not-use', 'low-flow'])
    const steps = sheetOf.visits[0]?.steps ?? []
    expect(steps.findLastIndex(({ verb, at }) => verb === 'close' && at[0] === 'feed-valve')).toBeLessThan(spot(steps, 'soak'))
    expect(spot(steps, 'hold', undefined, 'do-not-use')).toBeGreaterThan(-1)
  })

  test('only the prefilter due: one visit', () => {
    expect(made(train, usual(train, 's1')).visits).toHaveLength(1)
  })
})

describe('a commercial set that must not stop', () => {
  const train = trainOf('commercial-remineral')
  test('the bypass is turned before anything else moves water, and the feed stays open', () => {
    const steps = stepsOf(train, usual(train))
    const moves = steps.find(({ verb }) => ['turn', 'close', 'open', 'relieve', 'power-off', 'disconnect'].includes(verb))
    expect(moves).toMatchObject({ verb: 'turn', at: ['bypass'], to: 'bypass' })
    expect(spot(steps, 'close', 'feed-valve')).toBe(-1)
  })
  test('a flush that stops the water is announced with its minutes', () => {
    const steps = stepsOf(train, usual(train, 's2'))
    const told = steps.findIndex(({ verb, at }) => verb === 'tell' && at[0] === 'bypass')
    expect(told).toBeGreaterThan(-1)
    expect(told).toBeLessThan(spot(steps, 'turn', 'bypass', 'service'))
    expect(steps[told]?.text).toMatch(/about \d+ minutes/)
  })
  test('carbons side by side: both lines come off together, so that one does not run into the other’s open end', () => {
    const steps = stepsOf(train, usual(train, 's2', 's3'))
    const flush = spot(steps, 'flush', 's2')
    const off = steps.slice(0, flush).filter(({ verb, at }) => verb === 'disconnect' && at[0]?.endsWith('>meet-2'))
    expect(off.map(({ at }) => at[0]).sort()).toEqual(['s2>meet-2', 's3>meet-2'])
  })
  test('preservative leaves by the drain side before anything behind the membrane is run', () => {
    const steps = stepsOf(train, usual(train))
    expect(spot(steps, 'flush', 's4', 'drain')).toBeLessThan(spot(steps, 'flush', 's5'))
  })
})

describe('a set with a tank behind its bypass', () => {
  const train = trainOf('commercial-remineral')
  const steps = stepsOf(train, usual(train))
  const turns = (to: string): number => steps.filter((step) => step.verb === 'turn' && step.to === to).length
  test('water stops twice for flushes and no more: the post carbon runs on what the tank holds, round the set', () => {
    // The carbons, then membrane and remineraliser, then service.
    expect([turns('bypass'), turns('service')]).toEqual([3, 3])
    const flush = spot(steps, 'flush', 's6')
    const before = steps.slice(0, flush)
    expect(before.findLast(({ verb }) => verb === 'turn')?.to).toBe('bypass')
    expect(before.at(-1)).toMatchObject({ verb: 'open', at: ['tank'], to: 'full' })
    expect(steps[flush + 1]).toMatchObject({ verb: 'close', at: ['tank'] })
  })
  test('a tank that is run empty feeds nothing', () => {
    const drained = sheet({ train, tasks: usual(train), schools: { ...USUAL, tankWater: 'drain' } })
    const last = drained.ok ? (drained.visits[0]?.steps ?? []) : []
    const flush = spot(last, 'flush', 's6')
    expect(last.slice(0, flush).findLast(({ verb }) => verb === 'turn')?.to).toBe('service')
  })
})

describe('refrigerators', () => {
  test('inline: let out while it has power, then unplugged; flushed out of its own line; looked behind before it is pushed back', () => {
    const train = trainOf('fridge-inline')
    const { visits, holds } = made(train, usual(train))
    const steps = visits[0]?.steps ?? []
    const order = [
      spot(steps, 'close', 'feed-valve'),
      spot(steps, 'relieve', 'tap'),
      spot(steps, 'power-off', 'ice'),
      spot(steps, 'catch'),
      spot(steps, 'disconnect'),
      spot(steps, 'flush', 's1'),
      spot(steps, 'connect', 's1>cold-tee'),
      spot(steps, 'power-on', 'ice'),
      spot(steps, 'open', 'tap'),
      steps.findIndex(({ text }) => text.startsWith('Look once more behind the appliance')),
    ]
    expect(order).toEqual([...order].sort((a, b) => a - b))
    expect(order).not.toContain(-1)
    expect(steps.find(({ verb }) => verb === 'flush')?.to).toBe('s1>cold-tee')
    // Nothing is put on only to be freed again.
    expect(steps.filter(({ verb, at }) => verb === 'disconnect' && at[0] === 's1>cold-tee')).toHaveLength(1)
    expect(holds).toMatchObject([{ kind: 'ice', hours: 24 }])
  })
  test('inline with an ice maker alone: flushed out of its own line into the bucket', () => {
    const full = trainOf('fridge-inline')
    const train: Train = {
      nodes: full.nodes.filter(({ id }) => id !== 'tap' && id !== 'cold-tee'),
      pipes: [...full.pipes.filter(({ to }) => to === 'feed-valve' || to === 's1'), { from: 's1', to: 'ice' }],
    }
    expect(stepsOf(train, usual(train)).find(({ verb }) => verb === 'flush')?.to).toBe('s1>ice')
  })
  test('internal: no unplugging, no shutting; its air filter is dry work with a reset of its own', () => {
    const train = trainOf('fridge-internal')
    const steps = stepsOf(train, usual(train))
    expect([spot(steps, 'power-off'), spot(steps, 'close', 'feed-valve')]).toEqual([-1, -1])
    expect(steps.filter(({ verb }) => verb === 'reset').map(({ at }) => at[0])).toEqual(['s1', 's2'])
    const air = stepsOf(train, usual(train, 's2'))
    expect(air.some(({ verb }) => ['close', 'relieve', 'catch', 'flush', 'leak-check', 'open'].includes(verb))).toBe(false)
  })
})

describe('ultraviolet, salt and washing', () => {
  const uv = trainOf('ultraviolet')
  test('a lamp alone is dry work: dark first, nothing shut, warm before use', () => {
    const steps = stepsOf(uv, usual(uv, 's4'))
    expect(spot(steps, 'power-off', 's4')).toBeLessThan(spot(steps, 'open-housing', 's4'))
    expect(steps.some(({ verb }) => ['close', 'relieve', 'catch', 'flush', 'leak-check'].includes(verb))).toBe(false)
    expect(spot(steps, 'power-on', 's4')).toBeLessThan(spot(steps, 'wait', 's4'))
  })
  test('a sleeve is wet work: the lamp comes out for it and goes back after it', () => {
    const steps = stepsOf(uv, usual(uv, 's3'))
    expect(spot(steps, 'take-out', 's4')).toBeLessThan(spot(steps, 'take-out', 's3'))
    expect(spot(steps, 'close-housing', 's3')).toBeLessThan(spot(steps, 'fit', 's4'))
    expect(spot(steps, 'close', 'feed-valve')).toBeLessThan(spot(steps, 'loosen', 's3'))
    expect(steps.find(({ verb, at }) => verb === 'wash' && at[0] === 's3')?.caution).toContain('Acid')
  })
  test('salt alone: looked at and filled, nothing shut', () => {
    const train = trainOf('softener')
    const steps = stepsOf(train, usual(train, 's2'))
    expect(steps.some(({ verb }) => ['close', 'relieve', 'catch', 'flush', 'take-out', 'fit', 'leak-check'].includes(verb))).toBe(false)
    expect(steps.some(({ consumables }) => consumables.includes('softener salt'))).toBe(true)
  })
  test('a washed element is flushed and marked as washed; its cock is shut again before water comes', () => {
    const train = trainOf('washable-prefilter')
    const steps = stepsOf(train, [{ stage: 's1', action: 'wash' }])
    expect(spot(steps, 'turn', 'bypass', 'bypass')).toBeLessThan(spot(steps, 'drain', 's1.cock'))
    expect(spot(steps, 'close', 's1.cock')).toBeLessThan(spot(steps, 'turn', 'bypass', 'service'))
    expect(spot(steps, 'flush', 's1')).toBeGreaterThan(spot(steps, 'fit', 's1'))
    expect(steps.find(({ verb }) => verb === 'mark')?.text).toContain('washed')
  })
  test('a quarter-turn head that shuts itself needs no shutting; one that does not is held firmly', () => {
    const train = trainOf('quarter-turn-3')
    expect(spot(stepsOf(train, usual(train, 's3')), 'close', 'feed-valve')).toBe(-1)
    const loose: Train = {
      ...train,
      nodes: train.nodes.map((node) => (node.id === 's3' ? { ...node, selfSealing: false } : node)) as Train['nodes'],
    }
    const steps = stepsOf(loose, usual(loose, 's3'))
    expect(spot(steps, 'relieve')).toBeLessThan(spot(steps, 'open-housing', 's3'))
    expect(steps[spot(steps, 'open-housing', 's3')]?.caution).toContain('hold it firmly')
  })
})

describe('which shut-off', () => {
  const node = (one: Train['nodes'][number]) => one
  const plain = trainOf('under-sink-2')
  test('the nearest one that stops the water, not the main of the whole house', () => {
    const train: Train = {
      nodes: [
        node({ id: 'main', kind: 'valve', turns: 'multi' }),
        node({ id: 'house-tee', kind: 'tee' }),
        node({ id: 'house', kind: 'outlet', use: 'house' }),
        ...plain.nodes,
      ],
      pipes: [
        { from: 'source', to: 'main' },
        { from: 'main', to: 'house-tee' },
        { from: 'house-tee', to: 'house' },
        { from: 'house-tee', to: 'feed-valve' },
        ...plain.pipes.filter(({ from }) => from !== 'source'),
      ],
    }
    const steps = stepsOf(train, usual(train))
    expect([spot(steps, 'close', 'main'), spot(steps, 'close', 'feed-valve')].map((at) => at > -1)).toEqual([false, true])
  })
  test('a post carbon under the tank: feed and tank are shut, the tap lets it out', () => {
    const train = trainOf('reverse-osmosis-5')
    const steps = stepsOf(train, usual(train, 's5'))
    const opened = spot(steps, 'disconnect')
    expect(
      [spot(steps, 'close', 'feed-valve'), spot(steps, 'close', 'tank'), spot(steps, 'relieve', 'tap')].every(
        (at) => at > -1 && at < opened,
      ),
    ).toBe(true)
  })
  test('a tank without a valve is run empty', () => {
    const full = trainOf('reverse-osmosis-5')
    const train: Train = { ...full, nodes: full.nodes.map((one) => (one.kind === 'tank' ? { ...one, valve: false } : one)) }
    const steps = stepsOf(train, usual(train, 's5'))
    expect(spot(steps, 'drain', 'tank')).toBeLessThan(spot(steps, 'disconnect'))
    expect(spot(steps, 'close', 'tank')).toBe(-1)
  })
  test('a heater behind the work is off while it may run dry, and on again when water stands in it', () => {
    const train: Train = {
      nodes: [...plain.nodes, node({ id: 'heater', kind: 'heater' })],
      pipes: [...plain.pipes.filter(({ to }) => to !== 'tap'), { from: 's2', to: 'heater' }, { from: 'heater', to: 'tap' }],
    }
    const steps = stepsOf(train, usual(train))
    expect(spot(steps, 'power-off', 'heater')).toBeLessThan(spot(steps, 'close', 'feed-valve'))
    expect(spot(steps, 'power-on', 'heater')).toBeGreaterThan(spot(steps, 'open', 'feed-valve', 'full'))
  })
})

test('at the bench the set is lifted off by named lines, and comes back by name', () => {
  const train = trainOf('under-sink-3')
  const steps = stepsOf(train, usual(train), { ...USUAL, place: 'at-the-bench' })
  const bench = steps.filter(({ key }) => key.startsWith('bench/'))
  expect(bench.map(({ verb, at }) => `${verb} ${at[0]}`)).toEqual([
    'disconnect feed-valve>s1',
    'disconnect s3>tap',
    'connect feed-valve>s1',
    'connect s3>tap',
  ])
  expect(bench[0]?.text).toBe('Name, free and cap the line before housing 1')
  // The set goes to the bench with its last line, and hangs again before the first is put back.
  expect(bench[1]?.text).toBe('Name, free and cap the line after housing 3; then lift the set off its hooks and carry it to the bench')
  expect(bench[2]?.text).toMatch(/^Hang the set back on its hooks; then put the line before housing 1 back/)
})

test('figures in a step come apart too, so that a screen can say them in other units', () => {
  const steps = stepsOf(trainOf('two-large'), usual(trainOf('two-large')))
  const flush = steps.find(({ verb }) => verb === 'flush')
  expect(flush?.said).toMatchObject({ values: { litres: 8 } })
  expect(flush?.said?.text).toContain('{litres}')
  expect(flush?.text).toContain('8 L')
})
