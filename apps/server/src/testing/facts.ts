import { PROTOCOL_VERSION } from '@evenround/contract/protocol'
import { done, type Fact, NOTHING_READ, stepOfKey } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'

interface Place {
  siteId: string
  systemId: string
  visitId: string
}

let seq = 0
const base = ({ siteId, visitId }: Place) => {
  seq += 1
  return { id: uuidv7(), at: new Date().toISOString(), seq, siteId, visitId, supersedes: null, voided: false }
}

export const begun = (place: Place, more: Partial<Fact> = {}): Fact =>
  ({
    ...base(place),
    kind: 'visit-begun',
    stopId: null,
    systemId: place.systemId,
    trainVersion: 1,
    engineVersion: 1,
    tasks: [],
    place: null,
    ...more,
  }) as Fact
export const ticked = (place: Place, stepKey: string, more: Partial<Fact> = {}): Fact =>
  ({ ...base(place), kind: 'step-done', ...stepOfKey(stepKey), stepKey, ...done(), ...more }) as Fact
export const fitted = (place: Place, stageId: string, more: Partial<Fact> = {}): Fact =>
  ({
    ...base(place),
    kind: 'part-fitted',
    stageId,
    partId: null,
    partNumber: 'BRK-SED-10',
    position: 1,
    markText: 'mark',
    dateKnown: true,
    rated: { days: 183, litres: null, milliequivalents: null, hours: null },
    ...more,
  }) as Fact
export const measured = (place: Place, display: number, more: Partial<Fact> = {}): Fact =>
  ({
    ...base(place),
    kind: 'tds-reading',
    systemId: place.systemId,
    phase: 'before',
    water: 'untreated',
    display,
    multiplier: 1,
    quantity: 'tds',
    scale: 0.5,
    compensated: true,
    temperatureC: null,
    settled: true,
    keptDespiteDoubt: false,
    ...more,
  }) as Fact
export const gauged = (
  place: Place,
  stageId: string | null,
  values: Partial<typeof NOTHING_READ> | object,
  more: Partial<Fact> = {},
): Fact =>
  ({
    ...base(place),
    kind: 'stage-reading',
    systemId: place.systemId,
    stageId,
    phase: 'before',
    ...NOTHING_READ,
    ...values,
    ...more,
  }) as Fact
export const ended = (place: Place, more: Partial<Fact> = {}): Fact =>
  ({
    ...base(place),
    kind: 'visit-finished',
    outcome: 'done',
    monitorReset: null,
    customerTold: true,
    note: '',
    leftStanding: [],
    notRight: [],
    ...more,
  }) as Fact

export const batch = (...facts: unknown[]) => ({
  protocol: PROTOCOL_VERSION,
  deviceId: '01a210be-51fe-72a1-83c2-5e99bc301c4f',
  sentAt: new Date().toISOString(),
  facts,
})
export const changed = (place: Place, stageId: string, action: 'change' | null): Fact => ({
  ...base(place),
  kind: 'work-changed',
  stageId,
  action,
  why: action === null ? 'no part' : null,
})
export const tickedAtOnce = (place: Place, block: string, stepKeys: readonly string[]): Fact =>
  ({
    ...base(place),
    kind: 'block-done',
    block,
    steps: stepKeys.map((stepKey) => ({ ...stepOfKey(stepKey), stepKey })),
  }) as Fact
