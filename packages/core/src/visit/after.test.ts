import { type AfterInput, afterDoubts } from '.'

const STAGES = [
  { id: 's1', media: 'sediment' },
  { id: 's4', media: 'membrane' },
  { id: 's5', media: 'deionising-resin' },
] as const
const judged = (more: Partial<AfterInput>) =>
  afterDoubts({
    stages: STAGES,
    renewed: new Set(),
    before: { untreatedMgL: null, treatedMgL: null },
    after: { untreatedMgL: null, treatedMgL: null },
    untreatedHistoryMgL: [],
    flows: [],
    ...more,
  }).map(({ why, stageId, notDone }) => [why, stageId, notDone])
const pair = (untreatedMgL: number, treatedMgL: number) => ({ untreatedMgL, treatedMgL })
const membraneOnly = { stages: STAGES.slice(0, 2), renewed: new Set(['s4']) }

test('a new resin that reads like its feed is not done, whatever anybody says', () =>
  expect(judged({ renewed: new Set(['s5']), after: pair(210, 210) })).toEqual([['resin-equal', 's5', true]]))
test('one that leaves more than is usual is rinsed longer, and asked about', () =>
  expect(judged({ renewed: new Set(['s5']), after: pair(210, 24) })).toEqual([['resin-over-target', 's5', false]]))
test('one that works is not asked about', () => expect(judged({ renewed: new Set(['s5']), after: pair(210, 2) })).toEqual([]))

test.each<[number, unknown[]]>([
  // By the fixed floor: good up to a tenth, done for above fifteen hundredths.
  [20, []],
  [24, [['membrane-high', 's4', false]]],
  [80, [['membrane-passes', 's4', true]]],
  [200, [['membrane-passes', 's4', true]]],
])('a new membrane behind 200 mg/L at %d', (treated, doubts) =>
  expect(judged({ ...membraneOnly, after: pair(200, treated) })).toEqual(doubts),
)
test('a new resin or membrane that nobody measured is asked about', () => {
  expect(judged({ renewed: new Set(['s5']) })).toEqual([['not-measured', 's5', false]])
  expect(judged({ renewed: new Set(['s1']) })).toEqual([])
})
test('an old membrane was judged before the work', () => expect(judged({ stages: STAGES.slice(0, 2), after: pair(200, 80) })).toEqual([]))
test('where a resin polishes behind the new membrane the water after both says nothing of the membrane', () =>
  expect(judged({ renewed: new Set(['s4']), after: pair(200, 1) })).toEqual([]))

test('untreated water ten times what it was an hour ago is asked about; what always was so is not', () => {
  expect(judged({ before: pair(41, 4), after: pair(412, 40) })).toEqual([['untreated-jumped', null, false]])
  expect(judged({ before: pair(412, 40), after: pair(41, 4) })).toEqual([['untreated-jumped', null, false]])
  expect(judged({ untreatedHistoryMgL: [400, 410, 420], after: pair(41, 4) })).toEqual([['untreated-jumped', null, false]])
  expect(judged({ untreatedHistoryMgL: [400, 410, 420], after: pair(300, 4) })).toEqual([])
})

test('a flow under half of the clean one is asked about', () => {
  expect(judged({ flows: [{ stageId: 's1', afterLMin: 5.9, againstLMin: 12 }] })).toEqual([['flow-low', 's1', false]])
  expect(judged({ flows: [{ stageId: 's1', afterLMin: 6, againstLMin: 12 }] })).toEqual([])
})
