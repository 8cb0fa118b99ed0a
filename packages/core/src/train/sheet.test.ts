import fc from 'fast-check'
import {
  FAMILIES,
  type Family,
  familyTrain,
  flowPath,
  playTrain,
  type SheetSchools,
  type SheetStep,
  sheet,
  stagesInFlow,
  type Task,
  type Train,
  type Verb,
} from '.'

/** Sets of sumps, vessels and inline bodies in a row, without beds, lamps or appliances: what is said of them all is said here. */
const PLAIN = ['under-sink-2', 'under-sink-3', 'counter-fluoride', 'reverse-osmosis-5', 'two-large', 'pure-water'] as const
const ids = (family: Family): string[] => family.stages.map((_, index) => `s${index + 1}`)
const trainOf = (name: keyof typeof FAMILIES): Train => familyTrain(FAMILIES[name], ids(FAMILIES[name]))
const USUAL: SheetSchools = { closing: 'hand-and-quarter-turn', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }

function stepsOf(train: Train, tasks: Task[], schools = USUAL): SheetStep[] {
  const made = sheet({ train, tasks, schools })
  if (!made.ok) throw new Error(made.text)
  return made.visits.flatMap(({ steps }) => steps)
}
const change = (...stages: string[]): Task[] => stages.map((stage) => ({ stage, action: 'change' }))
const find = (steps: SheetStep[], verb: Verb, at?: string): number =>
  steps.findIndex((step) => step.verb === verb && (at === undefined || step.at.includes(at)))

/** Any plain train, any subset of its stages due, any school. */
const anyCase = fc
  .constantFrom(...PLAIN)
  .chain((name) =>
    fc.record({
      name: fc.constant(name),
      due: fc.subarray(ids(FAMILIES[name]), { minLength: 1 }),
      schools: fc.record({
        closing: fc.constantFrom('hand-only', 'hand-and-quarter-turn'),
        seals: fc.constantFrom('reuse', 'new'),
        order: fc.constantFrom('one-at-a-time', 'all-out'),
        tankWater: fc.constantFrom('keep', 'drain'),
      }) as fc.Arbitrary<SheetSchools>,
    }),
  )
  .map(({ name, due, schools }) => ({ train: trainOf(name), tasks: change(...due), due, schools }))

const OPENING: readonly Verb[] = ['loosen', 'open-housing', 'disconnect']

/** Where water through a flush runs: from the flushed stage on, until a line that is off, or the named end. */
function metAfter(train: Train, stage: string, off: ReadonlySet<string>): string[] {
  const path = flowPath(train).map(({ id }) => id)
  const met: string[] = []
  for (let index = path.indexOf(stage); index + 1 < path.length; index++) {
    if (off.has(`${path[index]}>${path[index + 1]}`)) return met
    met.push(path[index + 1] as string)
  }
  return met
}

describe('for any plain train, any stages due and any school', () => {
  test('keys are unique, numbers rise, every step says what and why', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, schools }) => {
        const steps = stepsOf(train, tasks, schools)
        expect(new Set(steps.map(({ key }) => key)).size).toBe(steps.length)
        expect(steps.map(({ n }) => n)).toEqual(steps.map((_, index) => index + 1))
        expect(steps.every(({ text, why, minutes }) => text.length > 4 && why.length > 10 && minutes > 0)).toBe(true)
      }),
    )
  })

  test('each due stage comes out once, is looked at, and goes in once; no other stage is touched', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, due, schools }) => {
        const steps = stepsOf(train, tasks, schools)
        for (const { id } of stagesInFlow(train)) {
          const out = steps.flatMap((step, index) => (step.verb === 'take-out' && step.at[0] === id ? [index] : []))
          const back = steps.flatMap((step, index) => (step.verb === 'fit' && step.at[0] === id ? [index] : []))
          expect([out.length, back.length]).toEqual(due.includes(id) ? [1, 1] : [0, 0])
          if (!due.includes(id)) continue
          const looked = steps.findIndex((step) => step.verb === 'inspect' && step.at[0] === id)
          expect((out[0] as number) < looked && looked < (back[0] as number)).toBe(true)
        }
      }),
    )
  })

  test('nothing is opened under pressure, and every shutting is relieved of its own', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, schools }) => {
        let pressed = true
        let relieved = false
        let tankShut = !train.nodes.some(({ kind }) => kind === 'tank')
        for (const step of stepsOf(train, tasks, schools)) {
          if (step.at[0] === 'feed-valve' && step.verb === 'close') [pressed, relieved] = [false, false]
          if (step.at[0] === 'feed-valve' && step.verb === 'open') [pressed, relieved] = [true, false]
          if (step.at[0] === 'tank') tankShut = step.verb === 'close' || (tankShut && step.verb !== 'open')
          if (step.verb === 'relieve') relieved = true
          if (OPENING.includes(step.verb))
            expect({ key: step.key, pressed, relieved, tankShut }).toEqual({
              key: step.key,
              pressed: false,
              relieved: true,
              tankShut: true,
            })
        }
      }),
    )
  })

  test('what was shut, opened or taken off is put back; pressure comes back by half with a leak check', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, schools }) => {
        const steps = stepsOf(train, tasks, schools)
        const end = playTrain(train, steps, new Set(steps.map(({ key }) => key)))
        expect([...end.shut]).toEqual(['tap'])
        expect([end.open.size, end.empty.size, end.apart.size, end.pressure]).toEqual([0, 0, 0, 'full'])
        steps.forEach((step, index) => {
          if (step.verb !== 'open' || step.to !== 'half') return
          expect(steps[index + 1]?.verb).toBe('leak-check')
          expect(steps[index + 2]).toMatchObject({ verb: 'open', at: step.at, to: 'full' })
        })
        const lastOpening = steps.findLastIndex(
          ({ verb, at }) => verb === 'connect' || verb === 'close-housing' || (verb === 'open' && at[0] !== 'tap'),
        )
        expect(steps.findLastIndex(({ verb }) => verb === 'leak-check')).toBeGreaterThan(lastOpening)
      }),
    )
  })

  test('fines, preservative and what must be flushed alone never run into a later part or the tank', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, due, schools }) => {
        const off = new Set<string>()
        const flushed = new Set<string>()
        let tankShut = !train.nodes.some(({ kind }) => kind === 'tank')
        const media = new Map(stagesInFlow(train).map((stage) => [stage.id, stage.media]))
        for (const step of stepsOf(train, tasks, schools)) {
          if (step.verb === 'disconnect') off.add(step.at[0] as string)
          if (step.verb === 'connect') off.delete(step.at[0] as string)
          if (step.at[0] === 'tank' && step.verb === 'close') tankShut = true
          if (step.at[0] === 'tank' && step.verb === 'open') tankShut = false
          if (step.verb !== 'flush') continue
          for (const id of step.at) {
            if (flushed.has(id)) continue
            flushed.add(id)
            const met = step.to === 'drain' ? [] : metAfter(train, id, off)
            const after = met.filter((one) => media.has(one))
            const kind = media.get(id)
            if (kind === 'carbon-block' || kind === 'post-carbon') expect({ id, after }).toEqual({ id, after: [] })
            if (kind === 'carbon-block') expect(met.includes('tank-tee') && !tankShut).toBe(false)
            if (kind === 'fluoride-media') expect({ after, long: step.minutes >= 10 }).toEqual({ after: [], long: true })
            if (kind === 'membrane') expect([step.to, tankShut]).toEqual(['drain', true])
          }
        }
        expect([...flushed].sort()).toEqual([...due].sort())
      }),
    )
  })

  test('readings before the water is touched and after, a mark for each part, the customer told last', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, due, schools }) => {
        const steps = stepsOf(train, tasks, schools)
        const measures = steps.flatMap(({ verb }, index) => (verb === 'measure' ? [index] : []))
        expect(measures).toHaveLength(2)
        expect(measures[0]).toBeLessThan(find(steps, 'close'))
        expect(measures[1]).toBeGreaterThan(steps.findLastIndex(({ verb }) => verb === 'fit'))
        expect(
          steps
            .filter(({ verb }) => verb === 'mark')
            .map(({ at }) => at[0])
            .sort(),
        ).toEqual([...due].sort())
        expect(steps.at(-1)?.verb).toBe('tell')
      }),
    )
  })

  test('one at a time: a housing is closed before the next is opened', () => {
    fc.assert(
      fc.property(anyCase, ({ train, tasks, schools }) => {
        const open = new Set<string>()
        for (const { verb, at } of stepsOf(train, tasks, { ...schools, order: 'one-at-a-time' })) {
          if (verb === 'open-housing') open.add(at[0] as string)
          if (verb === 'close-housing') open.delete(at[0] as string)
          expect(open.size).toBeLessThanOrEqual(1)
        }
      }),
    )
  })
})

describe('a five-stage set', () => {
  const train = trainOf('reverse-osmosis-5')
  test('the tank is shut after the feed and before anything is opened; the drain line is waited for', () => {
    const steps = stepsOf(train, change('s1'))
    expect(find(steps, 'close', 'feed-valve')).toBeLessThan(find(steps, 'close', 'tank'))
    expect(find(steps, 'relieve', 'drain')).toBeLessThan(find(steps, 'loosen'))
  })
  test('school drain: the tank runs empty before its valve is shut', () => {
    const steps = stepsOf(train, change('s1'), { ...USUAL, tankWater: 'drain' })
    expect(find(steps, 'drain', 'tank')).toBeLessThan(find(steps, 'close', 'tank'))
  })
  test('the first tank is poured away, twice after a new post carbon', () => {
    const holds = (...stages: string[]) => {
      const made = sheet({ train, tasks: change(...stages), schools: USUAL })
      return made.ok ? made.holds.map(({ kind, hours }) => [kind, hours]) : []
    }
    expect(holds('s4')).toEqual([['first-tank', 3]])
    expect(holds('s4', 's5')).toEqual([['first-tank', 6]])
  })
  test('a monitored stage that is changed is reset', () => {
    expect(find(stepsOf(train, change('s4')), 'reset', 's4')).toBeGreaterThan(0)
    expect(find(stepsOf(train, change('s1')), 'reset')).toBe(-1)
  })
})

describe('what is asked and what is refused', () => {
  test('an inlet that was never confirmed is asked for before the housing is opened', () => {
    const train = trainOf('under-sink-3')
    const nodes = train.nodes.map((node) => (node.kind === 'stage' && node.id === 's2' ? { ...node, inletConfirmed: false } : node))
    const steps = stepsOf({ ...train, nodes }, change('s2'))
    expect(find(steps, 'ask', 's2')).toBeGreaterThan(-1)
    expect(find(steps, 'ask', 's2')).toBeLessThan(find(steps, 'loosen', 's2'))
  })
  test('new seals by school, the quarter turn for large sumps only', () => {
    const seals = stepsOf(trainOf('two-large'), change('s1'), { ...USUAL, seals: 'new' })
    expect(find(seals, 'fit', 's1.seal')).toBeLessThan(find(seals, 'grease', 's1.seal'))
    expect(seals.find(({ verb }) => verb === 'close-housing')?.text).toContain('quarter turn')
    expect(stepsOf(trainOf('under-sink-2'), change('s1')).find(({ verb }) => verb === 'close-housing')?.text).not.toContain('quarter turn')
  })
  test('a pump before the opened section is switched off and on again', () => {
    const train = trainOf('ultraviolet')
    const pumped: Train = {
      nodes: [...train.nodes, { id: 'pump', kind: 'pump' }],
      pipes: [{ from: 'source', to: 'pump' }, { from: 'pump', to: 'feed-valve' }, ...train.pipes.filter(({ from }) => from !== 'source')],
    }
    const steps = stepsOf(pumped, change('s1'))
    expect(find(steps, 'power-off', 'pump')).toBeLessThan(find(steps, 'loosen'))
    expect(find(steps, 'power-on', 'pump')).toBeGreaterThan(find(steps, 'close-housing'))
  })
  test.each([
    ['no outlet', { nodes: trainOf('under-sink-2').nodes.filter(({ kind }) => kind !== 'outlet'), pipes: [] }, change('s1'), 'no-outlet'],
    ['unknown', trainOf('under-sink-2'), change('s9'), 'unknown-stage'],
    ['nothing', trainOf('under-sink-2'), [], 'no-tasks'],
    [
      'no valve',
      {
        ...trainOf('under-sink-2'),
        pipes: [
          { from: 'source', to: 's1' },
          { from: 's1', to: 's2' },
          { from: 's2', to: 'tap' },
        ],
      },
      change('s1'),
      'no-isolation',
    ],
  ] as [string, Train, Task[], string][])('%s is refused in words', (_, train, tasks, reason) => {
    const made = sheet({ train, tasks, schools: USUAL })
    expect(made).toMatchObject({ ok: false, reason })
    expect(made.ok ? '' : made.text).toMatch(/\w+ \w+/)
  })
})

test('the pipe map’s state follows the ticked steps: trapped until the last relief', () => {
  const train = trainOf('reverse-osmosis-5')
  const steps = stepsOf(train, change('s1'))
  const upTo = (verb: Verb, at: string) => {
    const last = find(steps, verb, at)
    return playTrain(train, steps, new Set(steps.slice(0, last + 1).map(({ key }) => key)))
  }
  expect(upTo('measure', 'tap').pressure).toBe('full')
  expect(upTo('close', 'tank').pressure).toBe('trapped')
  expect(upTo('relieve', 'tap').pressure).toBe('trapped')
  expect(upTo('relieve', 'drain').pressure).toBe('none')
  expect([...upTo('open-housing', 's1').open]).toEqual(['s1'])
  expect(upTo('catch', 's1').catching).toBe(true)
})

test.each(['quarter-turn-3', 'fridge-internal'] as const)(
  '%s has nothing but heads that shut themselves: its map says whether water presses all the same',
  (name) => {
    const train = trainOf(name)
    const steps = stepsOf(train, change('s1'))
    expect(playTrain(train, steps, new Set()).pressure).toBe('full')
    expect(playTrain(train, steps, new Set(steps.map(({ key }) => key))).pressure).toBe('full')
  },
)
