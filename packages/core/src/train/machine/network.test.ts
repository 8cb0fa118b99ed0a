import fc from 'fast-check'
import type { Train } from '..'
import { FAMILIES, type Family, familyTrain } from '..'
import { edgesOf, emptiedBy, inOf, type Joints, outOf, pressedBy, wateredBy, wayOut } from './network'

const trainOf = (name: keyof typeof FAMILIES): Train => {
  const family: Family = FAMILIES[name]
  return familyTrain(
    family,
    family.stages.map((_, index) => `s${index + 1}`),
  )
}
const joints = (more: Partial<Joints> = {}): Joints => ({
  shut: new Set(),
  still: new Set(),
  apart: new Set(),
  bypassed: new Set(),
  ...more,
})
const OSMOSIS = trainOf('reverse-osmosis-5')
const pressed = (train: Train, now: Joints, from: string): Set<string> => pressedBy(edgesOf(train, now), [outOf(train, from)])

test('the main presses as far as the membrane and no further; water seeps through it', () => {
  const main = pressed(OSMOSIS, joints(), 'source')
  expect(['s1', 's2', 's3', 's4<', 'drain'].every((chamber) => main.has(chamber))).toBe(true)
  expect(['s4>', 'tank', 's5', 'tap'].some((chamber) => main.has(chamber))).toBe(false)
  expect(wateredBy(OSMOSIS, edgesOf(OSMOSIS, joints()), [outOf(OSMOSIS, 'source')]).has('tap')).toBe(true)
})

test('the tank presses on the post carbon and the tap, and a check valve keeps it off the membrane', () => {
  const tank = pressed(OSMOSIS, joints(), 'tank')
  expect([tank.has('s5'), tank.has('tap'), tank.has('s4>')]).toEqual([true, true, false])
  const unchecked: Train = { ...OSMOSIS, pipes: OSMOSIS.pipes.map(({ check: _, ...pipe }) => pipe) }
  expect(pressed(unchecked, joints(), 'tank').has('s4>')).toBe(true)
})

test('a tap lets out what can come to it: behind a check valve too, behind a membrane not', () => {
  const out = emptiedBy(edgesOf(OSMOSIS, joints({ shut: new Set(['tank']) })), inOf(OSMOSIS, 'tap'))
  expect([out.has('s5'), out.has('s4>'), out.has('s4<'), out.has('s1')]).toEqual([true, true, false, false])
  expect(emptiedBy(edgesOf(OSMOSIS, joints()), 'drain').has('s1')).toBe(true)
})

test('a bypass joins what lies before it with what lies after, and leaves what it goes round alone', () => {
  const train: Train = {
    ...trainOf('two-large'),
    nodes: [...trainOf('two-large').nodes, { id: 'by', kind: 'bypass', enters: 's1', leaves: 's2' }],
  }
  const round = pressed(train, joints({ bypassed: new Set(['by']) }), 'source')
  expect([round.has('tap'), round.has('s1'), round.has('s2')]).toEqual([true, false, false])
})

test('water finds its way to a tap, a drain or an open line, and none through what is shut or off', () => {
  expect(wayOut(OSMOSIS, joints(), 's2', 'tap')).toEqual(['s2', 's3', 's4', 'tank-tee', 's5', 'tap'])
  expect(wayOut(OSMOSIS, joints({ apart: new Set(['s2>s3']) }), 's1', 's2>s3')).toEqual(['s1', 's2'])
  expect(wayOut(OSMOSIS, joints({ apart: new Set(['s2>s3']) }), 's1', 'tap')).toBeNull()
  expect(wayOut(OSMOSIS, joints(), 's1', 's2>s3')).toBeNull()
  expect(wayOut(OSMOSIS, joints(), 's5', 's1')).toBeNull()
})

test('shutting or taking off anything never presses on more', () => {
  const names = fc.constantFrom(...(Object.keys(FAMILIES) as (keyof typeof FAMILIES)[]))
  fc.assert(
    fc.property(names, fc.nat(), fc.nat(), (name, a, b) => {
      const train = trainOf(name)
      const lines = train.pipes.map(({ from, to }) => `${from}>${to}`)
      const valves = train.nodes.filter(({ kind }) => kind === 'valve' || kind === 'tank').map(({ id }) => id)
      const before = pressed(train, joints(), 'source')
      const after = pressed(
        train,
        joints({ apart: new Set([lines[a % lines.length] as string]), shut: new Set([valves[b % valves.length] as string]) }),
        'source',
      )
      expect([...after].filter((chamber) => !before.has(chamber))).toEqual([])
    }),
  )
})
