import type { KindDto, kindEditSchema, kindNewSchema } from '@evenround/contract/kinds'
import { ownMedium } from '@evenround/core/catalogue'
import { type Train, withKinds } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import type { z } from 'zod'
import { OwnKindRow } from '../../db/entities/catalogue'
import { System, TrainVersion } from '../../db/entities/master'
import { breach } from '../../db/errors'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import { carried, kindDto } from '../wear/kinds'
import { markSystems } from '../wear/stale'

/** Names a kind for this firm. */
export async function addKind(scope: FirmScope, { name, ...fields }: z.output<typeof kindNewSchema>): Promise<KindDto> {
  // One name in two spellings would be two kinds.
  const media = ownMedium(name.toLowerCase())
  const row = { media, ...fields, version: 1 }
  try {
    await scope.insert(OwnKindRow, row)
  } catch (error) {
    if (breach(error) !== 'unique') throw error
    throw new ApiError('CONFLICT', say`There is a kind called ${name} already.`, {
      fields: [{ path: 'name', message: say`taken by another kind` }],
    })
  }
  return kindDto(row as OwnKindRow)
}

interface Holding {
  systemId: string
  version: number
  train: Train
}

/** Changes what a firm says of its kind: every system that holds one gets a new version of its train; visits under way go on by the old. */
export async function editKind(
  scope: FirmScope,
  name: string,
  { version, ...fields }: z.output<typeof kindEditSchema>,
  { personId, now }: { personId: string; now: Date },
): Promise<KindDto> {
  const media = ownMedium(name)
  const changed = await scope.update(OwnKindRow, { media, version }, { ...fields, version: version + 1 })
  const row = await scope.findOne(OwnKindRow, { media })
  if (!row) throw notFound('kind')
  const kind = kindDto(row)
  if (changed === 0)
    throw new ApiError('STALE_VERSION', say`Somebody changed this kind meanwhile. Look at both and save again.`, { current: kind })
  const holding = await scope.query<Holding>(
    `select system.id as "systemId", v.version, v.train from system
     join train_version v on v.firm_id = system.firm_id and v.system_id = system.id and v.version = system.train_version
     where system.firm_id = $1 and v.train->'nodes' @> $2::jsonb for update of system`,
    [JSON.stringify([{ media }])],
  )
  for (const { systemId, version: drawn, train } of holding) {
    await scope.insert(TrainVersion, {
      systemId,
      version: drawn + 1,
      train: withKinds(train, [carried(kind)]),
      drawnBy: personId,
      drawnAt: now,
    })
    await scope.update(System, { id: systemId }, { trainVersion: drawn + 1 })
  }
  await markSystems(
    scope,
    now,
    holding.map(({ systemId }) => systemId),
  )
  return kind
}
