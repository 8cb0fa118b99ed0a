import { drawTrain, seeded } from '@evenround/core/simulate'
import { FAMILIES, type Family, familyTrain } from '@evenround/core/train'
import { layoutOf } from './map-layout'

const trainOf = (name: keyof typeof FAMILIES) => {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}

test('every stage of every train is drawn once, and none on top of another', () => {
  const trains = [
    ...(Object.keys(FAMILIES) as (keyof typeof FAMILIES)[]).map(trainOf),
    ...Array.from({ length: 60 }, (_, seed) => drawTrain(seeded(seed))),
  ]
  for (const train of trains) {
    const { placed } = layoutOf(train)
    const stages = train.nodes.filter(({ kind }) => kind === 'stage').map(({ id }) => id)
    expect(
      placed
        .filter(({ node }) => node.kind === 'stage')
        .map(({ node }) => node.id)
        .sort(),
    ).toEqual(stages.sort())
    const spots = placed.map(({ column, lane }) => `${column}/${lane}`)
    expect(new Set(spots).size).toBe(spots.length)
  }
})

test('stages side by side stand under one another; a bypass spans what it goes round; a tank hangs at its tee', () => {
  const { placed, bypasses, tanks } = layoutOf(trainOf('commercial-remineral'))
  const spot = (id: string) => placed.find(({ node }) => node.id === id)
  expect([spot('s2')?.column, spot('s2')?.lane]).toEqual([spot('s3')?.column, 0])
  expect(spot('s3')?.lane).toBe(1)
  expect(bypasses).toEqual([{ id: 'bypass', from: (spot('s1')?.column ?? 0) - 0.5, to: (spot('s6')?.column ?? 0) + 0.5 }])
  expect(tanks).toEqual([{ id: 'tank', column: (spot('s5')?.column ?? 0) + 0.5 }])
})

test('an air filter hangs in no pipe and stands below', () => {
  const { placed } = layoutOf(trainOf('fridge-internal'))
  expect(placed.find(({ node }) => node.id === 's2')?.lane).toBe(1)
})
