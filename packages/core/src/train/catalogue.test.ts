import { MEDIA, MEDIA_PROFILES, monthsToDays } from '../catalogue'
import { FAMILIES, type Family, familyTrain, flowPath, stagesInFlow } from '.'

const ids = (family: Family): string[] => family.stages.map((_, index) => `s${index + 1}`)

test('every medium has a profile with a name', () => {
  expect(Object.keys(MEDIA_PROFILES).sort()).toEqual([...MEDIA].sort())
  expect(MEDIA.every((media) => MEDIA_PROFILES[media].name.length > 2)).toBe(true)
})

test('twelve months are a mean year', () => {
  expect(monthsToDays(12)).toBeCloseTo(365.2425, 9)
})

test.each(Object.entries(FAMILIES))('%s is a train whose water reaches the tap through all its stages in order', (_, family: Family) => {
  const train = familyTrain(family, ids(family))
  const path = flowPath(train).map(({ id }) => id)
  expect(path[0]).toBe('source')
  expect(path.at(-1)).toBe('tap')
  // What sits in a dry slot sees no water; of two side by side the path takes the first.
  const wet = ids(family).filter((_id, index) => family.stages[index]?.housing !== 'dry-slot' && !family.stages[index]?.beside)
  expect(path.filter((id) => id.startsWith('s') && id !== 'source')).toEqual(wet)
  expect(stagesInFlow(train).map(({ position }) => position)).toEqual(family.stages.map((_stage, index) => index + 1))
})

test('a five-stage set has its drain, its tank behind a check, and the post carbon after the tee', () => {
  const train = familyTrain(FAMILIES['reverse-osmosis-5'], ['a', 'b', 'c', 'd', 'e'])
  expect(train.pipes).toContainEqual({ from: 'd', to: 'drain', restrictor: true })
  expect(train.pipes).toContainEqual({ from: 'd', to: 'tank-tee', check: true })
  expect(train.pipes).toContainEqual({ from: 'tank-tee', to: 'e' })
})

test('the wrong count of ids is refused with both counts', () => {
  expect(() => familyTrain(FAMILIES['under-sink-3'], ['a'])).toThrow('has 3 stages, got 1 ids')
})
