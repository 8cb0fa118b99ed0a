import type { StageDto } from '@evenround/contract/site'
import { markText } from '@evenround/core/visit'
import type { FoundGrade } from '@evenround/core/wear'
import type { NewFact } from './outbox'

/** Where and when a part goes in, and who fits it: the firm's day and the person, for the mark on the part. */
export interface FittedAt {
  siteId: string
  visitId: string
  today: string
  person: string
}

const NOT_RATED = { days: null, litres: null, milliequivalents: null, hours: null }

/** The part that went in, with the figures it was rated at. */
export function partFitted(
  { siteId, visitId, today, person }: FittedAt,
  stage: StageDto,
  typed: string,
  supersedes: string | null,
): Extract<NewFact, { kind: 'part-fitted' }> {
  const next = stage.nextPart
  const known =
    next === null ? undefined : [next, ...next.equivalents].find((part) => part.partNumber.toLowerCase() === typed.toLowerCase())
  const partNumber = known?.partNumber ?? typed
  return {
    kind: 'part-fitted',
    siteId,
    visitId,
    stageId: stage.id,
    partId: known?.id ?? null,
    partNumber,
    position: stage.position,
    markText: markText({ position: stage.position, partNumber, day: today, person }),
    dateKnown: true,
    // A part the catalogue does not know here is rated like the one expected.
    rated: known?.rated ?? next?.rated ?? stage.part?.rated ?? NOT_RATED,
    supersedes,
  }
}

/** What came out, graded; whether dirt had got past it is null where that cannot be seen. */
export const partRemoved = (
  { siteId, visitId }: Pick<FittedAt, 'siteId' | 'visitId'>,
  stageId: string,
  { found, dirtPast }: { found: FoundGrade; dirtPast: boolean | null },
  supersedes: string | null,
): NewFact => ({ kind: 'part-removed', siteId, visitId, stageId, found, dirtPast, supersedes })
