import type { JobPlan } from '../disinfection/plan'
import type { Fact, OwnFact, StripRead } from '../visit'
import { say } from '../words'

/** The published well: 458.65 L, a jug of 6 % by weight that stood 120 days at 18 °C. For tests. */
export const WELL: JobPlan = {
  targets: ['drilled-well'],
  reason: 'bacteria',
  note: '',
  systemIds: [],
  parts: [
    {
      id: 'casing',
      get name() {
        return say`Well casing`
      },
      side: 'source',
      part: { kind: 'casing', diameterMm: 150, depthM: 42, staticLevelM: 18 },
    },
    {
      id: 'pipes',
      get name() {
        return say`Pipes`
      },
      side: 'cold',
      part: { kind: 'pipe', boreMm: 20.2, lengthM: 30 },
    },
    {
      id: 'tank',
      get name() {
        return say`Pressure tank`
      },
      side: 'cold',
      part: { kind: 'pressure-tank', volumeL: 100, prechargeKpa: 200, pressureKpa: 300 },
    },
  ],
  product: { kind: 'liquid', percent: 6, basis: 'w/w', densityKgL: 1.08, ageDays: 120, storedAtC: 18 },
  get productName() {
    return say`Clear 6`
  },
  jug: null,
  school: 'well-double',
  targetMgL: 50,
  contactHours: 12,
  strengthReason: null,
  contactReason: null,
  demand: { ironMgL: 0, manganeseMgL: 0, sulphideMgL: 0, ammoniaNMgL: 0, otherMgL: 1.2 },
  pH: 7.9,
  waterC: 9,
  heater: 'bypass',
  outlets: [
    {
      id: 'near',
      get name() {
        return say`Kitchen, cold`
      },
      side: 'cold',
      pipeL: 4,
      flowLMin: 8,
    },
    {
      id: 'far',
      get name() {
        return say`Yard tap`
      },
      side: 'cold',
      pipeL: 16,
      flowLMin: 8,
    },
    {
      id: 'hot',
      get name() {
        return say`Kitchen, hot`
      },
      side: 'hot',
      pipeL: 5,
      flowLMin: 5,
    },
  ],
  flowLMin: 20,
  heelL: 0,
  discharge: 'hard-surface',
  neutraliser: 'thiosulfate',
  septic: true,
  supply: 'private',
  supplyMgL: 0,
  sample: true,
  repeat: 'yearly',
  technicianId: 'wren',
  day: '2026-11-25',
  afterJob: null,
}

export const START = '2026-11-25T19:42:00.000Z'
export const after = (minutes: number): string => new Date(Date.parse(START) + minutes * 60_000).toISOString()

/** Writes facts of one job, each a minute figure after its clock began. */
export function writer() {
  const facts: Fact[] = []
  const add = (minute: number, fact: OwnFact): string => {
    const id = `f${facts.length}`
    facts.push({
      id,
      at: after(minute),
      seq: facts.length,
      siteId: 'site',
      visitId: 'job',
      supersedes: null,
      voided: false,
      ...fact,
    })
    return id
  }
  const strip = (minute: number, place: string, purpose: StripRead['purpose'], mgL: number | null, more: Partial<StripRead> = {}): string =>
    add(minute, { kind: 'strip-read', place, purpose, method: mgL === null ? 'smell' : 'strip', range: 'high', mgL, dilution: 1, ...more })
  return { facts, add, strip }
}
