import type { ChlorineDto, DisinfectionSetup } from '@evenround/contract/disinfections'
import type { Demand, Discharge, JobPlan, Product, Reason, Side, StrengthSchool, Target, VolumePart } from '@evenround/core/disinfection'
import { BORES, isOwnUnit, isTank, isWell, schoolOf, schoolsFor, storedIsFit } from '@evenround/core/job'
import { isHot, type OutletNode } from '@evenround/core/train'
import { daysBetween, isIsoDay } from '@evenround/core/units'
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

const MAY_BE_ZERO = ['level', 'precharge', 'pressure']
const known = (part: DraftPart, ...names: string[]): number[] | null => {
  const all = names.map((name) => part.values[name] ?? null)
  // A level at the ground and a tank without pressure are real; a body without a size is not.
  const nothing = (value: number | null, index: number): boolean =>
    value === null || (value <= 0 && !MAY_BE_ZERO.includes(names[index] as string))
  return all.some(nothing) ? null : (all as number[])
}
const mm = (metres: number): number => metres * 1000

/** The part for the core; null while something of it is not said, or cannot be so. */
export function partOf(part: DraftPart): VolumePart | null {
  switch (part.kind) {
    case 'casing': {
      const [d, depth, level] = known(part, 'diameter', 'depth', 'level') ?? []
      if (d === undefined || depth === undefined || level === undefined || level > depth) return null
      return { kind: 'casing', diameterMm: mm(d), depthM: depth, staticLevelM: level }
    }
    case 'upright-cylinder': {
      const [d, h] = known(part, 'diameter', 'waterDepth') ?? []
      return d === undefined || h === undefined ? null : { kind: 'upright-cylinder', diameterMm: mm(d), waterDepthM: h }
    }
    case 'lying-cylinder': {
      const [d, length, h] = known(part, 'diameter', 'length', 'waterDepth') ?? []
      if (d === undefined || length === undefined || h === undefined || h > d) return null
      return { kind: 'lying-cylinder', diameterMm: mm(d), lengthM: length, waterDepthM: h }
    }
    case 'box': {
      const [length, width, h] = known(part, 'length', 'width', 'waterDepth') ?? []
      return length === undefined || width === undefined || h === undefined
        ? null
        : { kind: 'box', lengthM: length, widthM: width, waterDepthM: h }
    }
    case 'pressure-tank': {
      const [v, pre, p] = known(part, 'volume', 'precharge', 'pressure') ?? []
      return v === undefined || pre === undefined || p === undefined
        ? null
        : { kind: 'pressure-tank', volumeL: v, prechargeKpa: pre, pressureKpa: p }
    }
    case 'pipe': {
      const [length] = known(part, 'length') ?? []
      return length === undefined ? null : { kind: 'pipe', boreMm: BORES[part.bore]?.boreMm ?? 13.6, lengthM: length }
    }
    case 'known': {
      const [v] = known(part, 'volume') ?? []
      return v === undefined ? null : { kind: 'known', volumeL: v }
    }
  }
}

/** What is wrong with a part, in words, where its values contradict each other. */
export function partProblem({ kind, values }: DraftPart): string | null {
  const { depth, level, diameter, waterDepth } = values
  if (kind === 'casing' && depth != null && level != null && level > depth)
    return say`The water stands deeper than the well is: depth is the whole well, level how far down the water begins.`
  if (kind === 'lying-cylinder' && diameter != null && waterDepth != null && waterDepth > diameter)
    return say`Deeper than the tank is high.`
  return null
}

export function productOf(product: ChlorineDto, filledOn: string, storedAtC: number, day: string): Product {
  if (product.form === 'solid') return { kind: 'solid', percent: product.percent }
  return {
    kind: 'liquid',
    percent: product.percent,
    basis: product.basis ?? 'w/v',
    ...(product.densityKgL === null ? {} : { densityKgL: product.densityKgL }),
    strengthAs: product.strengthAs,
    ageDays: Math.max(0, daysBetween(filledOn, day)),
    storedAtC,
    thickened: product.thickened,
  }
}

export const litresOf = ({ metres, bore }: Pick<DraftOutlet, 'metres' | 'bore'>): number => squareMetres(bore) * (metres ?? 0) * 1000

/** The plan, where everything it needs is said; else what is missing, in words, in the order of the form. */
export function planOf(draft: Draft, setup: DisinfectionSetup, afterJob: string | null): { plan: JobPlan } | { missing: string[] } {
  const missing: string[] = []
  const product = setup.products.find(({ id }) => id === draft.productId)
  const parts = draft.parts.flatMap((part) => {
    const said = partOf(part)
    if (said === null) missing.push(say`${part.name}: not all of it is said`)
    if (part.sideSaid === false) missing.push(say`${part.name}: cold or hot side, tank or well`)
    return said === null ? [] : [{ id: part.id, name: part.name.trim() || partName(part.kind), side: part.side, part: said }]
  })
  if (draft.targets.length === 0) missing.push(say`What is disinfected`)
  const leftOut = setup.systems.flatMap(({ id, name }) => {
    if (draft.systemIds.includes(id)) return []
    const reason = (draft.leftOut[id] ?? '').trim()
    if (reason === '') missing.push(say`${name}: why it is left out`)
    return [{ systemId: id, reason }]
  })
  if (!product) missing.push(say`A product: the shelf’s list of chlorine is empty`)
  /** A figure within what can be: what lies outside is said like what is missing. */
  const number = (value: number | null, what: string, least: number, most: number): number => {
    if (value === null) missing.push(what)
    else if (value < least || value > most) missing.push(say`${what}: ${least} to ${most}`)
    return value ?? 0
  }
  const targetMgL = number(draft.targetMgL, say`The strength`, 1, 5000)
  const contactHours = number(draft.contactHours, say`The hours of contact`, 0.1, 240)
  const pH = number(draft.pH, say`The pH`, 0, 14)
  const waterC = number(draft.waterC, say`The water’s temperature, °C`, -2, 100)
  const flowLMin = number(draft.flowLMin, say`The flow of pump or hose`, 0.1, 10_000)
  const storedAtC = number(draft.storedAtC, say`How warm the jug is kept, °C`, -2, 60)
  const outlets = draft.outlets.map((outlet) => {
    if (outlet.metres === null || outlet.flowLMin === null || outlet.flowLMin <= 0) missing.push(say`${outlet.name}: length and flow`)
    return {
      id: outlet.id,
      name: outlet.name.trim() || say`Outlet`,
      side: outlet.side,
      pipeL: litresOf(outlet),
      flowLMin: outlet.flowLMin ?? 8,
      ...(outlet.assumed ? { assumed: true } : {}),
    }
  })
  if (draft.jug && (!draft.jug.mgL || draft.jug.dilution === null)) missing.push(say`The strip test of the jug`)
  if (!isIsoDay(draft.filledOn)) missing.push(say`The date on the container`)
  if (!isIsoDay(draft.day)) missing.push(say`The day the chlorine goes in`)
  if (draft.technicianId === '') missing.push(say`Who does it`)
  if (missing.length > 0 || !product) return { missing }
  return {
    plan: {
      targets: draft.targets,
      reason: draft.reason,
      note: draft.note.trim(),
      systemIds: draft.systemIds,
      ...(leftOut.length > 0 ? { leftOut } : {}),
      parts,
      product: productOf(product, draft.filledOn, storedAtC, draft.day),
      productName: product.name,
      stabilised: product.stabilised,
      jug: draft.jug ? { mgL: draft.jug.mgL as number, dilution: draft.jug.dilution as number } : null,
      school: draft.school,
      targetMgL,
      contactHours,
      strengthReason: draft.strengthReason.trim() === '' ? null : draft.strengthReason.trim(),
      contactReason: draft.contactReason.trim() === '' ? null : draft.contactReason.trim(),
      demand: draft.demand,
      pH,
      waterC,
      heater: draft.heater,
      outlets,
      flowLMin,
      ...(draft.secondDay ? { secondDay: true } : {}),
      heelL: draft.heelL ?? 0,
      discharge: draft.discharge,
      neutraliser: draft.neutraliser,
      septic: draft.septic,
      supply: draft.supply,
      supplyMgL: setup.site.chlorineMgL ?? 0,
      sample: draft.sample,
      repeat: draft.repeat,
      technicianId: draft.technicianId,
      day: draft.day,
      afterJob,
    },
  }
}

const boreOf = (boreMm: number): number => {
  const found = BORES.findIndex((bore) => bore.boreMm === boreMm)
  return found < 0 ? USUAL_BORE : found
}

/** The measures of a part as they were typed: diameters in metres again. */
function valuesOf(part: VolumePart): DraftPart['values'] {
  switch (part.kind) {
    case 'casing':
      return { diameter: part.diameterMm / 1000, depth: part.depthM, level: part.staticLevelM }
    case 'upright-cylinder':
      return { diameter: part.diameterMm / 1000, waterDepth: part.waterDepthM }
    case 'lying-cylinder':
      return { diameter: part.diameterMm / 1000, length: part.lengthM, waterDepth: part.waterDepthM }
    case 'box':
      return { length: part.lengthM, width: part.widthM, waterDepth: part.waterDepthM }
    case 'pressure-tank':
      return { volume: part.volumeL, precharge: part.prechargeKpa, pressure: part.pressureKpa }
    case 'pipe':
      return { length: part.lengthM }
    case 'known':
      return { volume: part.volumeL }
  }
}

const squareMetres = (bore: number): number => (Math.PI / 4) * ((BORES[bore]?.boreMm ?? 13.6) / 1000) ** 2

/** What an earlier job of this site knew, so that nobody measures a well twice; product, day and person are of today. */
export function draftFrom(plan: JobPlan, base: Draft): Draft {
  const {
    targets,
    systemIds,
    school,
    targetMgL,
    contactHours,
    strengthReason,
    contactReason,
    demand,
    pH,
    waterC,
    heater,
    flowLMin,
    heelL,
    discharge,
  } = plan
  return {
    ...base,
    targets,
    systemIds: systemIds.filter((id) => base.systemIds.includes(id)),
    school,
    targetMgL,
    contactHours,
    strengthReason: strengthReason ?? '',
    contactReason: contactReason ?? '',
    demand,
    pH,
    waterC,
    heater,
    flowLMin,
    heelL,
    discharge,
    neutraliser: plan.neutraliser,
    septic: plan.septic,
    supply: plan.supply,
    sample: plan.sample || base.sample,
    repeat: plan.repeat,
    parts: plan.parts.map(({ id, name, side, part }) => ({
      id,
      name,
      side,
      kind: part.kind,
      values: valuesOf(part),
      bore: part.kind === 'pipe' ? boreOf(part.boreMm) : USUAL_BORE,
    })),
    secondDay: plan.secondDay === true,
    leftOut: Object.fromEntries((plan.leftOut ?? []).map(({ systemId, reason }) => [systemId, reason])),
    outlets: plan.outlets.map(({ id, name, side, pipeL, flowLMin: flow, assumed }) => ({
      id,
      name,
      side,
      bore: USUAL_BORE,
      metres: pipeL / 1000 / squareMetres(USUAL_BORE),
      flowLMin: flow,
      ...(assumed ? { assumed } : {}),
    })),
  }
}
