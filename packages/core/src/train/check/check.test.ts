import fc from 'fast-check'
import { FAMILIES, type Family, familyTrain, type SheetSchools, type SheetStep, type SheetVisit, sheet, type Task, type Train } from '..'
import { check, type RuleId } from '.'

const COVERED = ['under-sink-2', 'under-sink-3', 'counter-fluoride', 'reverse-osmosis-5', 'two-large', 'pure-water'] as const
const ids = (family: Family): string[] => family.stages.map((_, index) => `s${index + 1}`)
const trainOf = (name: (typeof COVERED)[number]): Train => familyTrain(FAMILIES[name], ids(FAMILIES[name]))
const USUAL: SheetSchools = { closing: 'hand-and-quarter-turn', seals: 'reuse', order: 'one-at-a-time', tankWater: 'keep' }
const change = (due: readonly string[]): Task[] => due.map((stage) => ({ stage, action: 'change' }))

interface Case {
  train: Train
  tasks: Task[]
  schools: SheetSchools
}
const made = ({ train, tasks, schools }: Case) => {
  const result = sheet({ train, tasks, schools })
  if (!result.ok) throw new Error(result.text)
  return result
}
const findingsOf = (one: Case, visits: readonly SheetVisit[], holds = made(one).holds) => check({ ...one, visits, holds }).findings

const anyCase: fc.Arbitrary<Case> = fc
  .constantFrom(...COVERED)
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
  .map(({ name, due, schools }) => ({ train: trainOf(name), tasks: change(due), schools }))

test('what the generator makes passes, and leaves the train in service', () => {
  fc.assert(
    fc.property(anyCase, (one) => {
      const { visits, holds } = made(one)
      const { findings, end } = check({ ...one, visits, holds })
      expect(findings).toEqual([])
      expect(Object.values(end.valves).every((valve) => valve === 'open')).toBe(true)
      expect(Object.values(end.stages).every(({ housing, element }) => housing === 'closed' && element !== 'none')).toBe(true)
      expect([end.linesOff, end.withoutPower, end.inBypass]).toEqual([[], [], []])
    }),
    { numRuns: 300 },
  )
})

const FIVE: Case = { train: trainOf('reverse-osmosis-5'), tasks: change(['s1', 's2', 's3', 's4', 's5']), schools: USUAL }
const FLUORIDE: Case = { train: trainOf('counter-fluoride'), tasks: change(['s1', 's2', 's3']), schools: USUAL }
const LARGE: Case = { train: trainOf('two-large'), tasks: change(['s1', 's2']), schools: USUAL }

/** The sheet without the first step a test picks. */
function without(one: Case, pick: (step: SheetStep) => boolean): SheetVisit[] {
  const { visits } = made(one)
  let dropped = false
  const kept = visits.map((visit) => ({
    ...visit,
    steps: visit.steps.filter((step) => {
      const drop = !dropped && pick(step)
      dropped ||= drop
      return !drop
    }),
  }))
  if (!dropped) throw new Error('the sheet has no such step')
  return kept
}
const is = (verb: SheetStep['verb'], at?: string) => (step: SheetStep) => step.verb === verb && (at === undefined || step.at.includes(at))

test.each<[string, Case, (step: SheetStep) => boolean, RuleId]>([
  ['the feed is never shut', FIVE, is('close', 'feed-valve'), 'pressure'],
  ['the tank is never shut', FIVE, is('close', 'tank'), 'pressure'],
  ['the tap is not opened to relieve', FIVE, is('relieve', 'tap'), 'pressure'],
  ['the drain line is not waited for', FIVE, is('relieve', 'drain'), 'pressure'],
  ['nothing stands underneath', FIVE, is('catch'), 'catch'],
  ['a housing is not opened', FIVE, is('open-housing', 's1'), 'pressure'],
  ['nobody looks into it', FIVE, is('inspect', 's2'), 'old-gasket'],
  ['the old one stays in', FIVE, is('take-out', 's2'), 'old-gasket'],
  ['its seal is forgotten', FIVE, is('grease', 's2.seal'), 'seal'],
  ['it is left open', FIVE, is('close-housing', 's3'), 'pressure'],
  ['a line is left off', FIVE, is('connect', 's5>tap'), 'restore'],
  ['the membrane is not flushed', FIVE, is('flush', 's4'), 'onward'],
  ['the fluoride medium is flushed into the carbon', FLUORIDE, is('disconnect', 's2>s3'), 'alone'],
  ['the carbon is flushed into the membrane', FIVE, is('disconnect', 's3>s4'), 'onward'],
  ['the valve is thrown open', LARGE, (step) => step.verb === 'open' && step.to === 'half', 'slow'],
  ['nobody looks at half pressure', LARGE, is('leak-check'), 'leak'],
  ['the valve stays half open', LARGE, (step) => step.verb === 'open' && step.to === 'full', 'restore'],
  ['nothing is measured first', LARGE, is('measure'), 'record'],
  ['a part is not marked', LARGE, is('mark', 's1'), 'record'],
  ['the monitor is not reset', FIVE, is('reset', 's4'), 'record'],
  ['nothing is written down', LARGE, is('record'), 'record'],
])('%s: the rule is named', (_, one, pick, rule) => {
  expect(findingsOf(one, without(one, pick)).map((finding) => finding.rule)).toContain(rule)
})

test('holds that nobody makes or tells of are named', () => {
  const { visits } = made(FIVE)
  expect(findingsOf(FIVE, visits, []).map(({ rule }) => rule)).toEqual(['first-water'])
  const silent = visits.map((visit) => ({ ...visit, steps: visit.steps.filter(({ verb }) => verb !== 'hold' && verb !== 'tell') }))
  expect(findingsOf(FIVE, silent).map(({ rule }) => rule)).toContain('record')
})

test('a second housing opened with another element is named in the one-at-a-time school only', () => {
  const { visits } = made({ ...LARGE, schools: { ...USUAL, order: 'all-out' } })
  expect(findingsOf({ ...LARGE, schools: { ...USUAL, order: 'all-out' } }, visits)).toEqual([])
  expect(findingsOf(LARGE, visits).map(({ rule }) => rule)).toContain('one-open')
})

test('an inlet nobody confirmed is asked for; a must-go-on outlet is told first or goes round', () => {
  const blind: Train = {
    ...LARGE.train,
    nodes: LARGE.train.nodes.map((node) => (node.id === 's1' ? { ...node, inletConfirmed: false } : node)) as Train['nodes'],
  }
  const one = { ...LARGE, train: blind }
  expect(findingsOf(one, made(one).visits)).toEqual([])
  expect(findingsOf(one, without(one, is('ask'))).map(({ rule }) => rule)).toContain('direction')
  const needing: Train = {
    ...LARGE.train,
    nodes: LARGE.train.nodes.map((node) => (node.kind === 'outlet' ? { ...node, mustGoOn: true } : node)),
  }
  const must = { ...LARGE, train: needing }
  expect(findingsOf(must, made(must).visits)).toEqual([])
  expect(findingsOf(must, without(must, is('tell'))).map(({ rule }) => rule)).toContain('continuity')
})

test('any sheet at all gets an answer', () => {
  const { visits } = made(FIVE)
  const steps = visits.flatMap((visit) => visit.steps)
  fc.assert(
    fc.property(fc.shuffledSubarray(steps), (some) => {
      const { findings } = check({ ...FIVE, visits: [{ minGapHoursBefore: 0, steps: some }] })
      expect(Array.isArray(findings)).toBe(true)
      if (some.length < steps.length / 2) expect(findings.length).toBeGreaterThan(0)
    }),
  )
})

describe('chlorine', () => {
  const dose = (at: string): SheetStep => ({
    n: 1,
    key: 'dose',
    verb: 'dose',
    at: [at],
    text: 'x',
    why: 'y',
    minutes: 1,
    tools: [],
    consumables: [],
    block: 'Dose',
  })
  const rules = (train: Train, steps: readonly SheetStep[], tasks: Task[] = []): RuleId[] =>
    check({ train, tasks, schools: USUAL, visits: [{ minGapHoursBefore: 0, steps: [...steps] }] }).findings.map(({ rule }) => rule)
  const house = familyTrain(FAMILIES['carbon-tank'], ['s1', 's2'])
  const turned: SheetStep = { ...dose('bypass'), key: 'turn', verb: 'turn', to: 'bypass' }

  test('a dose that runs into a carbon bed is named; round it, it is not', () => {
    expect(rules(house, [dose('source')])).toContain('chlorine')
    expect(rules(house, [turned, dose('source')])).not.toContain('chlorine')
  })
  test('a shut valve keeps it away; a membrane behind an open line does not', () => {
    const osmosis = familyTrain(FAMILIES['reverse-osmosis-5'], ['s1', 's2', 's3', 's4', 's5'])
    expect(rules(osmosis, [{ ...dose('feed-valve'), key: 'shut', verb: 'close' }, dose('source')])).not.toContain('chlorine')
    expect(rules(osmosis, [dose('source')])).toContain('chlorine')
  })
  test('sediment alone takes no harm', () => {
    expect(rules(familyTrain(FAMILIES['washable-prefilter'], ['s1']), [dose('source')])).not.toContain('chlorine')
  })
  test('never acid and chlorine in one job', () => {
    const uv = familyTrain(FAMILIES.ultraviolet, ['s1', 's2', 's3', 's4'])
    expect(rules(uv, [dose('tap')], [{ stage: 's3', action: 'clean' }])).toContain('chlorine')
    expect(rules(uv, [dose('tap')], [{ stage: 's3', action: 'change' }])).not.toContain('chlorine')
  })
})
