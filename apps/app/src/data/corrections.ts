import type { SystemDto } from '@evenround/contract/site'
import type { Fact, VisitState } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { type NewFact, record } from './outbox'

/** The same fact at the same instant, corrected; what stood there before stays in the record. */
function corrected<F extends Fact>(fact: F, patch: Partial<F>, voided = false): NewFact {
  return { ...strip(fact), ...patch, supersedes: fact.id, voided } as NewFact
}

/** Says of one recorded thing what it should have said. */
export const correct = <F extends Fact>(fact: F, patch: Partial<F>) => record(corrected(fact, patch))

/** Takes one recorded thing back: it never was. */
export const takeBackFact = (fact: Fact) => record(corrected(fact, {}, true))

interface There {
  place: { siteId: string; visitId: string }
  systemId: string
  /** The stage there that is like one here: the same medium at the same position. */
  like: (stageId: string) => string | undefined
}

/** One recorded thing as it would have been recorded there; null for what is not carried along, `no-like` where its stage has no like. */
function movedFact(fact: Fact, { place, systemId, like }: There): NewFact | 'no-like' | null {
  if (fact.kind === 'tds-reading') return { ...strip(fact), ...place, systemId }
  if (fact.kind === 'stage-reading' && fact.stageId === null) return { ...strip(fact), ...place, systemId }
  if (fact.kind !== 'stage-reading' && fact.kind !== 'part-removed' && fact.kind !== 'part-fitted') return null
  const stageId = like(fact.stageId ?? '')
  if (stageId === undefined) return 'no-like'
  if (fact.kind === 'stage-reading') return { ...strip(fact), ...place, systemId, stageId }
  return fact.kind === 'part-removed' ? { ...strip(fact), ...place, stageId } : { ...strip(fact), ...place, stageId }
}

/**
 * A visit that was recorded at the wrong place: taken back there, and written anew at the right system with its instants, as far as its
 * stages have their like there (the same medium at the same position). Comes back with the new visit, and what had no like.
 */
export async function moveVisit(
  facts: readonly Fact[],
  state: VisitState,
  from: SystemDto,
  to: SystemDto,
): Promise<{ visitId: string; left: number }> {
  const visitId = uuidv7()
  const like = (stageId: string): string | undefined => {
    const stage = from.stages.find(({ id }) => id === stageId)
    return to.stages.find(({ media, position }) => media === stage?.media && position === stage.position)?.id
  }
  const { begun, finished } = state
  if (!begun) throw new RangeError('a visit that never began cannot be moved')
  const place = { siteId: to.siteId, visitId }
  const moved: NewFact[] = [
    {
      ...strip(begun),
      ...place,
      stopId: null,
      systemId: to.id,
      trainVersion: to.trainVersion,
      tasks: begun.tasks.flatMap(({ stage, action }) => {
        const there = like(stage)
        return there === undefined ? [] : [{ stage: there, action }]
      }),
    },
  ]
  let left = 0
  for (const fact of facts) {
    const there = movedFact(fact, { place, systemId: to.id, like })
    if (there === 'no-like') left++
    else if (there !== null) moved.push(there)
  }
  if (finished) moved.push({ ...strip(finished), ...place, note: `${finished.note}\nRecorded at ${from.name} first, by mistake.`.trim() })
  await record(...facts.map((fact) => corrected(fact, {}, true)), ...moved)
  return { visitId, left }
}

/** What a fact says, without what makes it this one; its instant stays. */
function strip<F extends Fact>({
  id: _id,
  seq: _seq,
  supersedes: _supersedes,
  voided: _voided,
  ...rest
}: F): Omit<F, 'id' | 'seq' | 'supersedes' | 'voided'> {
  return rest as Omit<F, 'id' | 'seq' | 'supersedes' | 'voided'>
}
