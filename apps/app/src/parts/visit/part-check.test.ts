import { stopWith } from '../../testing/stop'
import { numbersFor, partProblem } from './part-check'

const NONE = { days: null, litres: null, milliequivalents: null, hours: null }
const base = stopWith('under-sink-2', [1, 2])
const stop = {
  ...base,
  system: {
    ...base.system,
    stages: base.system.stages.map((stage, index) => ({
      ...stage,
      nextPart: {
        id: `p${index}`,
        partNumber: index === 0 ? 'BRK-SED-10' : 'BRK-CB-20',
        rated: NONE,
        equivalents: index === 0 ? [{ id: 'e', partNumber: 'LT-S-10', rated: NONE }] : [],
      },
    })),
  },
}
const [first] = stop.system.stages as [(typeof stop.system.stages)[number]]

test('what belongs here is fitted without a word, its equivalents too, in any case', () => {
  expect(numbersFor(first)).toEqual(['BRK-SED-10', 'LT-S-10'])
  expect(['BRK-SED-10', 'lt-s-10', ' brk-sed-10 ', ''].map((typed) => partProblem(stop, first, typed))).toEqual([null, null, null, null])
})

test('the neighbour’s part is named by its place, a stranger by what is expected', () => {
  expect(partProblem(stop, first, 'BRK-CB-20')).toContain('the part of position 2')
  expect(partProblem(stop, first, 'XX-1')).toContain('BRK-SED-10 or LT-S-10')
})

test('where the catalogue knows nothing, nothing is wrong', () => {
  expect(partProblem(stop, { ...first, nextPart: null }, 'XX-1')).toBeNull()
})
