import fc from 'fast-check'
import { type Action, FAMILIES, isBegun, isFitted, leftStanding, type SheetStep, sheet, type Task, type Train, type WorkChange } from '.'
import { check } from './check'
import { allDue, trainOf, USUAL } from './testing'

interface Stand {
  train: Train
  tasks: Task[]
  done: string[]
  changes?: WorkChange[]
}
function made({ train, tasks, done, changes = [] }: Stand) {
  const sheetMade = sheet({ train, tasks, schools: USUAL, from: { done, changes } })
  if (!sheetMade.ok) throw new Error(sheetMade.text)
  return sheetMade
}
const stepsOf = (stand: Stand): SheetStep[] => made(stand).visits[0]?.steps ?? []

/** What the checker says of the visit as it is really done: what is ticked first, then the rest. */
function findings(stand: Stand, tasks: Task[]) {
  const { visits, holds } = made(stand)
  const steps = stepsOf(stand)
  const ticked = stand.done.map((key) => {
    const step = steps.find((one) => one.key === key)
    if (!step) throw new Error(`${key} is gone from the sheet`)
    return step
  })
  const [first, ...others] = visits
  const inOrder = [...ticked, ...steps.filter((step) => !ticked.includes(step))]
  return check({
    train: stand.train,
    tasks,
    schools: USUAL,
    visits: [{ minGapHoursBefore: 0, ...first, steps: inOrder }, ...others],
    holds,
  }).findings
}

/** The first steps of the sheet for these tasks, up to a point. */
const begun = (train: Train, tasks: Task[], upTo: (step: SheetStep) => boolean): string[] => {
  const steps = stepsOf({ train, tasks, done: [] })
  const index = steps.findIndex(upTo)
  if (index < 0) throw new Error('no such step')
  return steps.slice(0, index).map(({ key }) => key)
}
const change = (...stages: string[]): Task[] => stages.map((stage) => ({ stage, action: 'change' }))
const take = (stage: string, done: string[], action: Action | null = 'change'): WorkChange => ({ stage, action, done })

const RO = trainOf('reverse-osmosis-5')
const PREFILTERS = change('s1', 's2', 's3')

test('before any water is shut off the membrane is taken in as if it had always been of the work', () => {
  const done = begun(RO, PREFILTERS, ({ verb }) => verb === 'close')
  const steps = stepsOf({ train: RO, tasks: PREFILTERS, done, changes: [take('s4', done)] })
  expect(steps.map(({ key }) => key)).toEqual(stepsOf({ train: RO, tasks: change('s1', 's2', 's3', 's4'), done: [] }).map(({ key }) => key))
})

test('once water runs again it has a closing of its own, and its mark and readings come with the others', () => {
  const done = begun(RO, PREFILTERS, ({ block }) => block === 'Leave')
  const stand = { train: RO, tasks: PREFILTERS, done, changes: [take('s4', done)] }
  const steps = stepsOf(stand)
  const rest = steps.filter(({ key }) => !done.includes(key))
  const blocks = [...new Set(rest.map(({ block }) => block))]
  expect(blocks).toEqual(expect.arrayContaining(['Shut and relieve again', 'Membrane vessel', 'Leave']))
  expect(blocks.indexOf('Shut and relieve again')).toBeLessThan(blocks.indexOf('Membrane vessel'))
  expect(rest.find(({ key }) => key === 'more-before/tell:tap')?.text).toMatch(/is out of use for about \d+ minutes$/)
  expect(rest.filter(({ verb }) => verb === 'mark').map(({ at }) => at[0])).toEqual(['s1', 's2', 's3', 's4'])
  expect(rest.filter(({ verb }) => verb === 'measure')).toHaveLength(1)
  expect(findings(stand, change('s1', 's2', 's3', 's4'))).toEqual([])
  expect(made(stand).holds.map(({ kind }) => kind)).toContain('first-tank')
})

test('a stage that was not begun is left for another day; one that is open gets its old part back', () => {
  const done = begun(RO, PREFILTERS, ({ verb, at }) => verb === 'inspect' && at[0] === 's2')
  const stand = { train: RO, tasks: PREFILTERS, done }
  const outs = (changes: WorkChange[]) =>
    stepsOf({ ...stand, changes })
      .filter(({ verb }) => verb === 'take-out')
      .map(({ at }) => at[0])
  expect(outs([take('s3', done, null)])).toEqual(['s1', 's2'])
  const back = stepsOf({ ...stand, changes: [take('s2', done, null)] })
  const from = back.findIndex(({ key }) => key === 'back-s2/fit:s2')
  expect(back[from]?.text).toBe('Put the old carbon element back as it sat, if it is whole')
  expect(back.slice(from).find(({ verb }) => verb === 'close-housing')?.at).toEqual(['s2'])
  expect(back.some(({ verb, at }) => verb === 'mark' && at[0] === 's2')).toBe(false)
  expect(isBegun(stepsOf(stand), done, 's2')).toBe(true)
  expect(isBegun(stepsOf(stand), done, 's3')).toBe(false)
  expect(findings({ ...stand, changes: [take('s3', done, null)] }, change('s1', 's2'))).toEqual([])
})

test('that the first readings are not among what was ticked changes nothing', () => {
  const all = begun(RO, PREFILTERS, ({ verb }) => verb === 'loosen')
  const ticked = all.filter((key) => !key.startsWith('before/measure'))
  expect(ticked).toHaveLength(all.length - 1)
  const keys = (done: string[]) => stepsOf({ train: RO, tasks: PREFILTERS, done, changes: [take('s3', done, null)] }).map(({ key }) => key)
  expect(keys(ticked)).toEqual(keys(all))
  expect(keys(all).some((key) => key.includes('flush-s3/'))).toBe(false)
})

test('the last one is left too: what was moved for it is put back', () => {
  const tasks = change('s1')
  const done = begun(RO, tasks, ({ verb }) => verb === 'loosen')
  const rest = stepsOf({ train: RO, tasks, done, changes: [take('s1', done, null)] }).filter(({ key }) => !done.includes(key))
  expect(rest.map(({ verb, to }) => `${verb} ${to ?? ''}`.trim())).toEqual([
    'close',
    'open half',
    'leak-check',
    'open full',
    'open half',
    'leak-check',
    'open full',
    'leak-check',
    'measure',
    'record',
    'tell',
  ])
  expect(findings({ train: RO, tasks, done, changes: [take('s1', done, null)] }, [])).toEqual([])
  // On a phone the first readings are known by themselves and are not among what was ticked.
  const ticked = done.filter((key) => !key.startsWith('before/measure'))
  const unread = stepsOf({ train: RO, tasks, done: ticked, changes: [take('s1', ticked, null)] })
  expect(unread.filter(({ verb }) => verb === 'loosen' || verb === 'fit')).toEqual([])
  expect(unread.some(({ key }) => key.startsWith('put-back/open:'))).toBe(true)
})

test('taken in and left out again, it is as before', () => {
  const done = begun(RO, PREFILTERS, ({ verb }) => verb === 'loosen')
  const stand = { train: RO, tasks: PREFILTERS, done }
  expect(stepsOf({ ...stand, changes: [take('s4', done), take('s4', done, null)] })).toEqual(stepsOf(stand))
})

// Trains of the catalogue whose stages can all be done in one visit.
const FAMILY = fc.constantFrom(...(Object.keys(FAMILIES) as (keyof typeof FAMILIES)[]).filter((name) => name !== 'carbon-tank'))

test('any family, any stage taken in at any step: nothing done is undone, the rest passes the checker, and it stays so as the work goes on', () => {
  fc.assert(
    fc.property(FAMILY, fc.nat(), fc.nat(), fc.nat(), (name, which, cut, further) => {
      const train = trainOf(name)
      const all = allDue(train)
      fc.pre(all.length > 1)
      const more = all[which % all.length] as Task
      const tasks = all.filter((task) => task !== more)
      const before = stepsOf({ train, tasks, done: [] })
      const done = before.slice(0, cut % before.length).map(({ key }) => key)
      const stand = { train, tasks, done, changes: [{ ...more, done }] }
      expect(findings(stand, all)).toEqual([])
      const rest = stepsOf(stand).filter(({ key }) => !done.includes(key))
      const later = { ...stand, done: [...done, ...rest.slice(0, further % rest.length).map(({ key }) => key)] }
      expect(stepsOf(later).map(({ key }) => key)).toEqual(stepsOf(stand).map(({ key }) => key))
    }),
    { numRuns: 60 },
  )
})

/** What is still to come of a stage: nothing new goes in where none is marked. */
const isMarked = (steps: readonly SheetStep[], done: readonly string[], stage: string): boolean =>
  steps.some(({ verb, at, key }) => (verb === 'mark' || verb === 'measure') && at[0] === stage && !done.includes(key))

test('any family, any stage left at any step: it is finished where something new went in, else it is put back, and the rest passes the checker', () => {
  fc.assert(
    fc.property(FAMILY, fc.nat(), fc.nat(), (name, which, cut) => {
      const train = trainOf(name)
      const all = allDue(train)
      fc.pre(all.length > 1)
      const less = all[which % all.length] as Task
      const before = stepsOf({ train, tasks: all, done: [] })
      const done = before.slice(0, cut % before.length).map(({ key }) => key)
      const stand = { train, tasks: all, done, changes: [{ stage: less.stage, action: null, done }] }
      const kept = isFitted(before, done, less.stage)
      if (!kept) expect(isMarked(stepsOf(stand), done, less.stage)).toBe(false)
      const left = findings(stand, kept ? all : all.filter((task) => task !== less))
      // What was done before it was decided is done: only what comes after can be put right.
      expect(left.filter(({ step }) => step === null || !done.includes(step))).toEqual([])
    }),
    { numRuns: 60 },
  )
})

test('any family, stopped at any step: what nothing new went into is put back, and everything stands as in service', () => {
  fc.assert(
    fc.property(FAMILY, fc.nat(), (name, cut) => {
      const train = trainOf(name)
      const tasks = allDue(train)
      const before = stepsOf({ train, tasks, done: [] })
      const done = before.slice(0, cut % before.length).map(({ key }) => key)
      const left = tasks.filter(({ stage }) => !isFitted(before, done, stage))
      const last = left.toSorted((a, b) => Number(isBegun(before, done, a.stage)) - Number(isBegun(before, done, b.stage)))
      const stand = { train, tasks, done, changes: last.map(({ stage }) => ({ stage, action: null, done })) }
      const steps = stepsOf(stand)
      for (const { stage } of left) expect(isMarked(steps, done, stage)).toBe(false)
      const found = findings(
        stand,
        tasks.filter((task) => !left.includes(task)),
      )
      expect(found.filter(({ step }) => step === null || !done.includes(step))).toEqual([])
      expect(leftStanding(train, steps, new Set(steps.map(({ key }) => key)))).toEqual([])
    }),
    { numRuns: 60 },
  )
})

test('a washable element found torn is changed, a sleeve that stays dim too: anywhere before it goes back in', () => {
  const cases: [Parameters<typeof trainOf>[0], string, Action, Action][] = [
    ['washable-prefilter', 's1', 'wash', 'change'],
    ['ultraviolet', 's3', 'clean', 'change'],
    ['washable-prefilter', 's1', 'change', 'wash'],
  ]
  for (const [name, stage, first, then] of cases) {
    const train = trainOf(name)
    const tasks: Task[] = [{ stage, action: first }]
    const all = stepsOf({ train, tasks, done: [] })
    const fit = all.findIndex(({ verb, at }) => verb === 'fit' && at[0] === stage)
    for (let cut = 0; cut <= fit; cut++) {
      const done = all.slice(0, cut).map(({ key }) => key)
      const stand = { train, tasks, done, changes: [take(stage, done, then)] }
      expect(findings(stand, [{ stage, action: then }])).toEqual([])
    }
  }
})
