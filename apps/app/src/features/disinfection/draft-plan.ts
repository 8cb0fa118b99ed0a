import type { ChlorineDto, DisinfectionSetup } from '@evenround/contract/disinfections'
import type { JobPlan, Product, VolumePart } from '@evenround/core/disinfection'
import { BORES } from '@evenround/core/job'
import { daysBetween, isIsoDay } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { type Draft, type DraftOutlet, type DraftPart, partName } from './draft'

/** Square metres of a pipe's bore, by its place in the list of bores. */
export const squareMetres = (bore: number): number => (Math.PI / 4) * ((BORES[bore]?.boreMm ?? 13.6) / 1000) ** 2

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
