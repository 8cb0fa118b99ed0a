import type { PartDto } from '@evenround/contract/shelf'
import { PART_FIELDS } from '@evenround/core/firm'
import type { Rated } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { In } from 'typeorm'
import { recordOf, rowOf } from '../../db/columns'
import { PartEquivalent } from '../../db/entities/catalogue'
import { FACT_TABLES, FactReceipt, type FactRow } from '../../db/entities/facts'
import { Part, Stage } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { badInput } from '../../http/errors'
import { counting } from '../records/counting'
import { markSystems } from '../wear/stale'

/** A rating by the columns it stands in, of a part and of a fitting alike. */
export const ratedColumns = (rated: Rated) => rowOf({ rated: PART_FIELDS.rated }, { rated })

export const partDto = (part: Part, equivalents: readonly string[] = []): PartDto => ({
  id: part.id,
  ...recordOf(PART_FIELDS, part),
  equivalents: [...equivalents],
  version: part.version,
})

/** What stands in for each part, by its id; the pairs are stored once and hold both ways. */
export async function equivalentsOf(scope: FirmScope): Promise<Map<string, string[]>> {
  const pairs = await scope.find(PartEquivalent)
  const of = new Map<string, string[]>()
  for (const { partId, otherId } of pairs) {
    of.set(partId, [...(of.get(partId) ?? []), otherId])
    of.set(otherId, [...(of.get(otherId) ?? []), partId])
  }
  return of
}

/** Says anew what stands in for a part; only what fits the same housing with the same medium can. */
export async function setEquivalents(scope: FirmScope, part: Part, ids: readonly string[]): Promise<void> {
  const others = await scope.find(Part, { id: In([...ids]) })
  const fits = others.filter(({ id, media, housing }) => id !== part.id && media === part.media && housing === part.housing)
  if (fits.length < new Set(ids).size)
    throw badInput([{ path: 'equivalents', message: say`expected other parts of the catalogue with the same medium and housing` }])
  await scope.query('delete from part_equivalent where firm_id = $1 and (part_id = $2 or other_id = $2)', [part.id])
  const pairs = fits.map(({ id }) => (id < part.id ? { partId: id, otherId: part.id } : { partId: part.id, otherId: id }))
  await scope.insert(PartEquivalent, pairs)
}

interface Correction {
  partId: string
  before: Rated
  after: Rated
  personId: string
  deviceId: string
  now: Date
  newId: () => string
}

const same = (row: FactRow<'part-fitted'>, rated: Rated): boolean =>
  Object.entries(ratedColumns(rated)).every(([column, value]) => row[column as keyof FactRow<'part-fitted'>] === value)

/**
 * Corrects the rating of fitted parts by facts that supersede their fitting: only those still in force that were rated by the very
 * figures that were wrong. The book shows both. Returns how many.
 */
export async function correctFitted(
  scope: FirmScope,
  { partId, before, after, personId, deviceId, now, newId }: Correction,
): Promise<number> {
  const inForce = await scope.query<{ id: string }>(
    `select f.id from fact_part_fitted f where f.firm_id = $1 and f.part_id = $2 and ${counting('fact_part_fitted')}`,
    [partId],
  )
  const fitted = await scope.find(FACT_TABLES['part-fitted'], { id: In(inForce.map(({ id }) => id)) })
  const wrong = fitted.filter((row) => same(row, before))
  for (const row of wrong) {
    const id = newId()
    const shared = { id, arrivedAt: now, personId, deviceId, visitId: row.visitId, flags: ['rating-corrected'] }
    await scope.insert(FactReceipt, { ...shared, kind: 'part-fitted', bodyHash: 'rating-corrected' })
    const { firmId: _, ...rest } = row
    await scope.insert(FACT_TABLES['part-fitted'], { ...rest, ...shared, ...ratedColumns(after), supersedes: row.id })
  }
  const stages = await scope.find(Stage, { id: In([...new Set(wrong.map(({ stageId }) => stageId))]) })
  await markSystems(scope, now, [...new Set(stages.map(({ systemId }) => systemId))])
  return wrong.length
}
