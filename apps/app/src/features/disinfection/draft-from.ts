import type { JobPlan, VolumePart } from '@evenround/core/disinfection'
import { BORES } from '@evenround/core/job'
import { type Draft, type DraftPart, USUAL_BORE } from './draft'
import { squareMetres } from './draft-plan'

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
