import type { StopDto } from '@evenround/contract/site'
import { FAMILIES, type Family, familyTrain } from '@evenround/core/train'
import { addDays } from '@evenround/core/units'
import { dueWith } from './due'

export const TODAY = '2026-11-25'
const NONE = { days: null, litres: null, milliequivalents: null, hours: null }

/** A stop at a made-up site of one of the families, all parts fitted 200 days ago. */
export function stopWith(family: keyof typeof FAMILIES, due: number[], more: Partial<StopDto> = {}): StopDto {
  const shape: Family = FAMILIES[family]
  const ids = shape.stages.map((_, index) => `stage-${index + 1}`)
  const forecast = {
    p10: '2026-12-20',
    p50: '2027-01-18',
    p90: '2027-03-01',
    governing: 'calendar' as const,
    causes: [],
    remaining: 0.2,
    ended: 0.03,
    state: 'good' as const,
    doubted: [],
    narrowing: [],
  }
  return {
    id: 'stop',
    day: TODAY,
    order: 1,
    technicianId: 'tam',
    leaveMin: 485,
    arriveMin: 499,
    workMin: 80,
    travelMin: 14,
    ferryAt: null,
    promised: false,
    promise: null,
    site: {
      id: 'site',
      name: 'Net loft cottage',
      village: 'Quay',
      island: 'Thrawn',
      access: '',
      contact: '',
      phone: '',
      email: '',
      contacts: [],
      street: '',
      postcode: '',
      country: '',
      lat: null,
      lon: null,
      people: 2,
      source: 'municipal',
      chlorineMgL: null,
      kind: 'home',
      version: 1,
    },
    system: {
      id: 'system',
      siteId: 'site',
      name: 'Kitchen',
      trainVersion: 1,
      train: familyTrain(shape, ids),
      stages: shape.stages.map(({ media, housing }, index) => ({
        id: ids[index] as string,
        position: index + 1,
        media,
        housing,
        forecast,
        due: dueWith(),
        rule: dueWith().rule,
        school: { inForce: 'earliest' as const, from: 'firm' as const },
        part: {
          partNumber: `P-${index + 1}`,
          fittedOn: addDays(TODAY, -200),
          dateKnown: true,
          rated: { ...NONE, days: 183, ...(media === 'deionising-resin' ? { milliequivalents: 880 } : {}) },
        },
        nextPart: { id: `part-${index + 1}`, partNumber: `P-${index + 1}`, rated: { ...NONE, days: 183 }, equivalents: [] },
      })),
    },
    tasks: due.map((position) => ({ stageId: `stage-${position}`, action: 'change' as const })),
    holds: [],
    visit: null,
    follows: null,
    job: null,
    ...more,
  }
}
