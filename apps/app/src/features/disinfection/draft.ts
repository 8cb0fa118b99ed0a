import type { DisinfectionSetup } from '@evenround/contract/disinfections'
import type { Demand, Discharge, JobPlan, Reason, Side, StrengthSchool, Target, VolumePart } from '@evenround/core/disinfection'
import { BORES, isOwnUnit, isTank, isWell, schoolOf, schoolsFor, storedIsFit } from '@evenround/core/job'
import { isHot, type OutletNode } from '@evenround/core/train'
import { say } from '@evenround/core/words'

export type PartKind = VolumePart['kind']
/** A part as it is being said: some of it is not known yet. Lengths in metres, diameters too; litres; kPa. */
export interface DraftPart {
  id: string
  name: string
  side: Side
  /** False while nobody said where a known volume stands; left out where that is plain. */
  sideSaid?: boolean
  kind: PartKind
  values: Record<string, number | null>
  /** Of a pipe: which of the list of bores, by its place in it. */
  bore: number
}
export interface DraftOutlet {
  id: string
  name: string
  side: 'cold' | 'hot'
  metres: number | null
  bore: number
  flowLMin: number | null
  /** The pipe is ours to guess until somebody says how far it is. */
  assumed?: boolean
}
export interface Draft {
  targets: Target[]
  reason: Reason
  note: string
  systemIds: string[]
  /** Of the site's systems that are not in it: why. */
  leftOut: Record<string, string>
  parts: DraftPart[]
  productId: string
  filledOn: string
  storedAtC: number | null
  jug: { mgL: number | null; dilution: number | null } | null
  school: StrengthSchool
  targetMgL: number | null
  contactHours: number | null
  strengthReason: string
  contactReason: string
  demand: Demand
  pH: number | null
  waterC: number | null
  heater: JobPlan['heater']
  outlets: DraftOutlet[]
  flowLMin: number | null
  /** Mixed on the first day, run to the outlets on the second. */
  secondDay: boolean
  heelL: number | null
  discharge: Discharge
  neutraliser: JobPlan['neutraliser']
  septic: boolean
  supply: JobPlan['supply']
  sample: boolean
  repeat: JobPlan['repeat']
  technicianId: string
  day: string
}

/** Copper 15 mm and plastic 32 mm: what is met most. */
export const USUAL_BORE = BORES.findIndex(({ material, nominal }) => material === 'copper' && nominal === '15 mm')
const RISER_BORE = BORES.findIndex(({ material, nominal }) => material === 'pe' && nominal === '32 mm')

let made = 0
export const newId = (): string => `n${Date.now().toString(36)}${(made++).toString(36)}`

const PART_NAMES: Record<PartKind, string> = {
  casing: say`Well casing`,
  'upright-cylinder': say`Upright tank`,
  'lying-cylinder': say`Lying tank`,
  box: say`Box tank`,
  'pressure-tank': say`Pressure tank`,
  pipe: say`Pipes`,
  known: say`Known volume`,
}
export const partName = (kind: PartKind): string => PART_NAMES[kind]
const SIDES_OF: Record<PartKind, Side> = {
  casing: 'source',
  'upright-cylinder': 'tank',
  'lying-cylinder': 'tank',
  box: 'tank',
  'pressure-tank': 'cold',
  pipe: 'cold',
  known: 'cold',
}
export const newPart = (kind: PartKind, side: Side = SIDES_OF[kind], sideSaid = kind !== 'known'): DraftPart => ({
  id: newId(),
  ...(sideSaid ? {} : { sideSaid }),
  name: side === 'hot' && kind === 'pipe' ? say`Hot pipes` : side === 'hot' ? say`Water heater` : PART_NAMES[kind],
  side,
  kind,
  values: {},
  bore: kind === 'pipe' && side !== 'hot' ? RISER_BORE : USUAL_BORE,
})
export const newOutlet = (name: string, side: DraftOutlet['side']): DraftOutlet => ({
  id: newId(),
  name,
  side,
  metres: 10,
  bore: USUAL_BORE,
  flowLMin: 8,
  assumed: true,
})

const USE_NAMES: Record<OutletNode['use'], string> = {
  drinking: say`Drinking tap`,
  house: say`Tap of the house`,
  ice: say`Ice maker`,
  appliance: say`Appliance`,
  hose: say`Outside tap`,
}

/** Outlets that the drawings of the systems in the job show: those the chlorine is led to, each named by its use and its system. */
function drawnOutlets(setup: DisinfectionSetup, systemIds: readonly string[], targets: readonly Target[]): DraftOutlet[] {
  const own = isOwnUnit(targets)
  return setup.systems
    .filter(({ id }) => systemIds.includes(id))
    .flatMap(({ id: systemId, name, train }) => {
      const outlets = train.nodes.filter((node): node is OutletNode => node.kind === 'outlet')
      // A unit for drinking water is shut off while the house is disinfected: its taps get no chlorine.
      const led = own ? outlets : outlets.filter(({ use }) => use === 'house' || use === 'hose')
      return led.map(({ id, use, flowLMin }): DraftOutlet => {
        const side = isHot(train, id) ? 'hot' : 'cold'
        const label = `${USE_NAMES[use]}${side === 'hot' ? say`, hot` : ''} (${name})`
        return { ...newOutlet(label, side), id: `${systemId.slice(0, 8)}-${id}`, ...(flowLMin === undefined ? {} : { flowLMin }) }
      })
    })
}
const isDrawn = ({ id }: DraftOutlet): boolean => /^[0-9a-f]{8}-/.test(id)

const TARGET_OF: Record<DisinfectionSetup['site']['source'], Target[]> = {
  'drilled-well': ['drilled-well'],
  'shallow-well': ['dug-well'],
  surface: ['storage-tank'],
  roof: ['storage-tank'],
  municipal: ['plumbing'],
}

const firstParts = (targets: readonly Target[]): DraftPart[] =>
  isWell(targets)
    ? [newPart('casing'), newPart('pressure-tank'), newPart('pipe')]
    : isTank(targets)
      ? [
          targets.includes('vehicle-tank')
            ? { ...newPart('known', 'tank', true), name: say`Tank, by its label` }
            : newPart('upright-cylinder'),
          newPart('pipe'),
        ]
      : isOwnUnit(targets)
        ? [{ ...newPart('known', 'cold', true), name: say`Housings, tubes and tank` }]
        : [newPart('pipe')]

/** What follows from the target where nobody said otherwise; outlets that come from drawings are those of the new target. */
export function withTargets(draft: Draft, targets: Target[], setup: DisinfectionSetup): Draft {
  const school = schoolsFor(targets)[0] as StrengthSchool
  const { targetMgL, contactHours } = schoolOf(targets, school)
  const untouched = draft.parts.every(({ values }) => Object.values(values).every((value) => value === null))
  return {
    ...draft,
    targets,
    school,
    targetMgL,
    contactHours,
    sample: !isOwnUnit(targets) || !storedIsFit(draft.reason),
    parts: untouched ? firstParts(targets) : draft.parts,
    outlets: [...drawnOutlets(setup, draft.systemIds, targets), ...draft.outlets.filter((outlet) => !isDrawn(outlet))],
  }
}

export function withSchool(draft: Draft, school: StrengthSchool): Draft {
  const { targetMgL, contactHours } = schoolOf(draft.targets, school)
  return { ...draft, school, targetMgL, contactHours }
}

export function firstDraft(setup: DisinfectionSetup, me: { id: string }, afterPositive: boolean): Draft {
  const { site, systems, products, people } = setup
  const targets = TARGET_OF[site.source]
  const private_ = site.source !== 'municipal'
  const doer = isWell(targets) ? (people.find(({ id, wells }) => id === me.id && wells) ?? people.find(({ wells }) => wells)) : undefined
  return withTargets(
    {
      targets,
      reason: afterPositive ? 'bacteria' : private_ ? 'yearly' : 'opened',
      note: '',
      systemIds: systems.map(({ id }) => id),
      leftOut: {},
      parts: [],
      productId: products[0]?.id ?? '',
      filledOn: products[0]?.filledOn ?? setup.today,
      storedAtC: products[0]?.storedAtC ?? 18,
      jug: null,
      school: 'weak-long',
      targetMgL: 50,
      contactHours: 12,
      strengthReason: '',
      contactReason: '',
      demand: { ironMgL: 0, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 0 },
      pH: 7.5,
      waterC: 10,
      heater: 'none',
      outlets: [],
      flowLMin: 20,
      secondDay: false,
      heelL: 0,
      discharge: 'hard-surface',
      neutraliser: 'thiosulfate',
      septic: private_,
      supply: private_ ? 'private' : 'municipal',
      sample: true,
      repeat: private_ ? 'yearly' : 'none',
      technicianId: doer?.id ?? (people.some(({ id }) => id === me.id) ? me.id : (people[0]?.id ?? '')),
      day: setup.today,
    },
    targets,
    setup,
  )
}
