import type { DisinfectionSetup } from '@evenround/contract/disinfections'
import type { JobPlan } from '@evenround/core/disinfection'
import { jobFigures } from '@evenround/core/job'
import { stopWith, TODAY } from '../../testing/stop'
import { type Draft, type DraftPart, firstDraft, newOutlet, newPart, withSchool, withTargets } from './draft'
import { draftFrom } from './draft-from'
import { partOf, partProblem, planOf } from './draft-plan'

const SETUP: DisinfectionSetup = {
  today: TODAY,
  site: { ...stopWith('softener', [1]).site, source: 'drilled-well', chlorineMgL: null },
  systems: [],
  people: [
    { id: 'tam', name: 'Tam', wells: false },
    { id: 'wren', name: 'Wren', wells: true },
  ],
  products: [
    {
      id: 'jug',
      version: 1,
      name: 'Clear 6',
      form: 'liquid',
      percent: 6,
      basis: 'w/w',
      densityKgL: 1.08,
      strengthAs: 'available-chlorine',
      thickened: false,
      stabilised: false,
      filledOn: '2026-07-28',
      storedAtC: 18,
      percentNow: 5.4,
    },
  ],
  acid: [],
  jobs: [],
}
const first = (more: Partial<DisinfectionSetup> = {}): Draft => firstDraft({ ...SETUP, ...more }, { id: 'tam' }, false)

/** The published well, typed: 150 mm casing, 42 m deep, water from 18 m down; 30 m of 22 mm copper; a pressure tank. */
function typed(): Draft {
  const draft = first()
  const VALUES: Partial<Record<DraftPart['kind'], DraftPart['values']>> = {
    casing: { diameter: 0.15, depth: 42, level: 18 },
    'pressure-tank': { volume: 100, precharge: 200, pressure: 300 },
    pipe: { length: 30 },
  }
  const parts = draft.parts.map((part): DraftPart => ({ ...part, bore: 2, values: VALUES[part.kind] ?? {} }))
  return { ...draft, parts, outlets: [newOutlet('Kitchen, cold', 'cold')], demand: { ...draft.demand, otherMgL: 1.2 }, pH: 7.9, waterC: 9 }
}
const made = (draft: Draft): JobPlan => {
  const result = planOf(draft, SETUP, null)
  if ('missing' in result) throw new Error(result.missing.join('; '))
  return result.plan
}

test('a well begins with its casing, the double dose, and somebody with the skill', () => {
  expect(first()).toMatchObject({
    targets: ['drilled-well'],
    school: 'well-double',
    technicianId: 'wren',
    repeat: 'yearly',
    supply: 'private',
  })
  expect(first().parts.map(({ kind }) => kind)).toEqual(['casing', 'pressure-tank', 'pipe'])
  const mains = first({ site: { ...SETUP.site, source: 'municipal' } })
  expect(mains).toMatchObject({ targets: ['plumbing'], school: 'weak-long', technicianId: 'tam', repeat: 'none' })
})

test('what was typed gives the published dose', () => {
  const figures = jobFigures(made(typed()))
  expect(figures.totalL).toBeCloseTo(458.6467, 3)
  // The jug is 120 days old on the day of the plan.
  expect(figures.doses[0]?.amount).toBeCloseTo(404.511, 2)
})

test('what is missing is named in the order of the form', () => {
  expect(planOf({ ...first(), pH: null, productId: '' }, SETUP, null)).toEqual({
    missing: [
      'Well casing: not all of it is said',
      'Pressure tank: not all of it is said',
      'Pipes: not all of it is said',
      'A product: the shelf’s list of chlorine is empty',
      'The pH',
    ],
  })
})

test('a level under the bottom, and water over the top, are said and not taken', () => {
  const casing = { ...newPart('casing'), values: { diameter: 0.15, depth: 20, level: 21 } }
  expect(partOf(casing)).toBeNull()
  expect(partProblem(casing)).toContain('deeper than the well is')
  const lying = { ...newPart('lying-cylinder'), values: { diameter: 1, length: 2, waterDepth: 1.1 } }
  expect([partOf(lying), partProblem(lying)]).toEqual([null, 'Deeper than the tank is high.'])
})

test('what lies outside of what can be is said, and never sent', () => {
  const bad = { ...typed(), pH: 15, waterC: 120, day: '2026-02-31', filledOn: 'soon', contactHours: 0 }
  expect(planOf(bad, SETUP, null)).toEqual({
    missing: [
      'The hours of contact: 0.1 to 240',
      'The pH: 0 to 14',
      'The water’s temperature, °C: -2 to 100',
      'The date on the container',
      'The day the chlorine goes in',
    ],
  })
  expect(partOf({ ...newPart('box'), values: { length: 1, width: 0, waterDepth: 1 } })).toBeNull()
  expect(partOf({ ...newPart('casing'), values: { diameter: 0.15, depth: 20, level: 0 } })).not.toBeNull()
})

test('another target brings its own school and parts, unless something was typed', () => {
  const unit = withTargets(first(), ['drinking-unit'], SETUP)
  expect(unit).toMatchObject({ contactHours: 0.5, sample: false })
  expect(unit.parts.map(({ kind }) => kind)).toEqual(['known'])
  expect(withTargets(typed(), ['plumbing'], SETUP).parts.map(({ kind }) => kind)).toContain('casing')
  expect(withSchool(first(), 'strong-short')).toMatchObject({ targetMgL: 200, contactHours: 4 })
})

test('an earlier plan comes back as it was typed, with today’s jug, day and person', () => {
  const plan = made(typed())
  const again = made(draftFrom({ ...plan, day: '2025-01-01', technicianId: 'gone' }, first()))
  expect(again.parts.map(({ part }) => part)).toEqual(plan.parts.map(({ part }) => part))
  expect(again.outlets[0]?.pipeL).toBeCloseTo(plan.outlets[0]?.pipeL ?? 0, 9)
  expect(again).toMatchObject({ day: TODAY, technicianId: 'wren', pH: 7.9 })
})

test('a vehicle’s tank begins with the volume on its label; where another known volume stands is asked', () => {
  const camper = withTargets(first(), ['vehicle-tank'], SETUP)
  expect(camper.parts[0]).toMatchObject({ kind: 'known', name: 'Tank, by its label', side: 'tank' })
  const said = {
    ...camper,
    parts: camper.parts.map((part) => ({ ...part, values: { volume: 90, length: 4 } })),
    outlets: [newOutlet('Sink', 'cold')],
  }
  expect('plan' in planOf(said, SETUP, null)).toBe(true)
  const more = { ...said, parts: [...said.parts, { ...newPart('known'), values: { volume: 12 } }] }
  expect(planOf(more, SETUP, null)).toEqual({ missing: ['Known volume: cold or hot side, tank or well'] })
})

test('outlets come from the drawings; a system is left out with its reason; what is assumed of a pipe is said in the plan', () => {
  const system = { ...stopWith('carbon-tank', [1]).system, id: '0a1b2c3d-0000-7000-8000-000000000001', siteId: SETUP.site.id }
  const setup = { ...SETUP, site: { ...SETUP.site, source: 'municipal' as const }, systems: [system] }
  const draft = firstDraft(setup, { id: 'tam' }, false)
  expect(draft.outlets.length).toBeGreaterThan(0)
  expect(draft.outlets.every(({ name, assumed }) => name.includes(system.name) && assumed === true)).toBe(true)
  const said = { ...draft, parts: draft.parts.map((part) => ({ ...part, values: { length: 20 } })) }
  const plan = planOf(said, setup, null)
  expect('plan' in plan && plan.plan.outlets.every(({ assumed }) => assumed === true)).toBe(true)
  const without = { ...said, systemIds: [] }
  expect(planOf(without, setup, null)).toEqual({ missing: [`${system.name}: why it is left out`] })
  const reasoned = planOf({ ...without, leftOut: { [system.id]: 'on its own line' } }, setup, null)
  expect('plan' in reasoned && reasoned.plan.leftOut).toEqual([{ systemId: system.id, reason: 'on its own line' }])
})
