import { say } from '@evenround/core/words'
import type { EntityTarget, FindOptionsWhere } from 'typeorm'
import type { FirmRow } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { ApiError, notFound } from './errors'
import { type Thing, thingWord } from './things'

interface Edit<E> {
  id?: string
  version: number
  patch: Partial<E>
  what: Thing
}

/** The refusal of an edit made on an older version; `current` is what stands now. */
export const staleVersion = (what: Thing, current: unknown): ApiError =>
  new ApiError('STALE_VERSION', say`Somebody changed this ${thingWord(what)} meanwhile. Look at both and save again.`, { current })

/**
 * Edits a versioned thing of this firm. An edit made on an older version is refused, with what stands now beside it,
 * so that the person can see both sides.
 */
export async function editVersioned<E extends FirmRow & { version: number }, D>(
  scope: FirmScope,
  entity: EntityTarget<E>,
  { id, version, patch, what }: Edit<E>,
  dto: (row: E) => D,
): Promise<D> {
  const key = (id === undefined ? {} : { id }) as FindOptionsWhere<E>
  const changed = await scope.update(entity, { ...key, version } as FindOptionsWhere<E>, { ...patch, version: version + 1 } as Partial<E>)
  const row = await scope.findOne(entity, key)
  if (!row) throw notFound(what)
  if (changed === 0) throw staleVersion(what, dto(row))
  return dto(row)
}
