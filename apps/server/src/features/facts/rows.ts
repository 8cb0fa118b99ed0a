import { createHash } from 'node:crypto'
import type { FactResult } from '@evenround/contract/visit'
import type { Fact } from '@evenround/core/visit'
import type { Who } from '../../http/env'
import { ownColumns } from '../records/map'

/** Beyond this a device's clock is shown as off and its instants are put right. */
const SKEW_LIMIT_MS = 120_000

export interface Intake extends Filing {
  who: Who
}

/** What the rows of a fact say of how it came. */
export interface Filing {
  who: Pick<Who, 'personId'>
  deviceId: string
  skewMs: number
  /** The latest instant a fact can have happened at, by the device's clock as it was when it sent them. */
  notAfter?: Readonly<Record<string, string>>
}

/** A field that came later and stands at its default is left out, so that a fact sent before it is known again. */
const withoutLater = (key: string, value: unknown): unknown => (key === 'dateKnown' && value === true ? undefined : value)
export const hashOf = (fact: Fact): string => createHash('sha256').update(JSON.stringify(fact, withoutLater)).digest('base64')

/** What is noted on any fact of a visit: that the device's clock is off, that the visit was over. */
export function usualFlags(fact: Fact, closedAt: Date | null, skewMs: number): FactResult['flags'] {
  const flags: FactResult['flags'] = []
  if (Math.abs(skewMs) > SKEW_LIMIT_MS) flags.push('clock-skew')
  const mayBeLate = fact.kind !== 'visit-begun' && fact.supersedes === null
  if (mayBeLate && closedAt !== null && closedAt.getTime() < Date.parse(fact.at)) flags.push('visit-closed')
  return flags
}

export interface Filed {
  receipt: Record<string, unknown>
  row: Record<string, unknown>
  /** When it happened, put right where the device's clock was off. */
  at: Date
  flags: FactResult['flags']
}

/** The two rows of a fact. Nothing happens after it has arrived: a clock that was off is put right, and that is noted on the fact. */
export function rowsOf(fact: Fact, bodyHash: string, noted: FactResult['flags'], intake: Filing, now: Date): Filed {
  const corrected = noted.includes('clock-skew') ? intake.skewMs : 0
  // A clock that was ahead when it was recorded and right when it was sent.
  const latest = intake.notAfter?.[fact.id]
  const ahead = latest !== undefined && Date.parse(latest) < Date.parse(fact.at)
  const told = Date.parse(ahead ? latest : fact.at) - corrected
  const future = told > now.getTime() + SKEW_LIMIT_MS
  const flags: FactResult['flags'] = (future || ahead) && !noted.includes('clock-skew') ? [...noted, 'clock-skew'] : noted
  const shared = { id: fact.id, arrivedAt: now, personId: intake.who.personId, deviceId: intake.deviceId, visitId: fact.visitId, flags }
  const { seq, siteId, supersedes, voided } = fact
  const at = future ? now : new Date(told)
  return {
    receipt: { ...shared, kind: fact.kind, bodyHash },
    row: Object.assign(ownColumns(fact), shared, { at, seq, siteId, supersedes, voided }),
    at,
    flags,
  }
}
