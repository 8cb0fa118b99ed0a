import type { TrainPageDto } from '@evenround/contract/train-edit'
import { stagesInFlow, type Train } from '@evenround/core/train'
import { In } from 'typeorm'
import { Part, Site, Stage, System, TrainVersion } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { ApiError, badInput, notFound } from '../../http/errors'
import { kindsOf, withFirmKinds } from '../wear/kinds'
import { markSite } from '../wear/stale'

export async function trainPage(scope: FirmScope, systemId: string): Promise<TrainPageDto> {
  const system = await scope.findOne(System, { id: systemId })
  const site = system && (await scope.findOne(Site, { id: system.siteId }))
  const stored = system && (await scope.findOne(TrainVersion, { systemId, version: system.trainVersion }))
  if (!system || !site || !stored || system.goneAt !== null) throw notFound('system')
  return { systemId, siteId: site.id, siteName: site.name, name: system.name, version: system.trainVersion, train: stored.train }
}

/** Stages of the train that the system has not had yet become lasting places of it; one of another system cannot. */
async function takeStages(scope: FirmScope, systemId: string, train: Train): Promise<void> {
  const nodes = stagesInFlow(train)
  const known = new Map((await scope.find(Stage, { id: In(nodes.map(({ id }) => id)) })).map((stage) => [stage.id, stage]))
  const foreign = nodes.find(({ id }) => known.has(id) && known.get(id)?.systemId !== systemId)
  if (foreign) {
    const index = train.nodes.findIndex(({ id }) => id === foreign.id)
    throw badInput([{ path: `train.nodes[${index}].id`, message: 'expected a stage of this system, got one of another' }])
  }
  const fresh = nodes.filter(({ id }) => !known.has(id))
  if (fresh.length === 0) return
  const parts = await scope.find(Part, {}, { partNumber: 'ASC' })
  // The part most likely fitted next; the catalogue can say otherwise.
  const next = (media: string, housing: string): string | null =>
    parts.find((part) => part.media === media && part.housing === housing)?.id ?? null
  await scope.insert(
    Stage,
    fresh.map(({ id, media, housing }) => ({ id, systemId, nextPartId: next(media, housing), changeSchool: null })),
  )
}

/** Stores a new version of a system's train. Visits that began on an earlier one go on with it. */
export async function saveTrain(
  scope: FirmScope,
  systemId: string,
  { version, name, train }: { version: number; name: string; train: Train },
  { personId, now }: { personId: string; now: Date },
): Promise<TrainPageDto> {
  // One edit at a time: the second waits here and then finds the version moved on.
  await scope.query('select id from system where firm_id = $1 and id = $2 for update', [systemId])
  const before = await trainPage(scope, systemId)
  if (before.version !== version)
    throw new ApiError('STALE_VERSION', 'Somebody else changed this train meanwhile. Both are shown; choose, then save again.', {
      current: before,
    })
  const known = withFirmKinds(train, await kindsOf(scope))
  await takeStages(scope, systemId, known)
  await scope.insert(TrainVersion, { systemId, version: version + 1, train: known, drawnBy: personId, drawnAt: now })
  await scope.update(System, { id: systemId }, { trainVersion: version + 1, name })
  const kept = new Set(stagesInFlow(train).map(({ id }) => id))
  const gone = stagesInFlow(before.train).flatMap(({ id }) => (kept.has(id) ? [] : [id]))
  await markSite(scope, now, before.siteId)
  // What is plumbed no more is due no more.
  for (const table of ['stage_forecast', 'stale_stage'])
    await scope.query(`delete from ${table} where firm_id = $1 and stage_id = any($2)`, [gone])
  return trainPage(scope, systemId)
}

/** A system that was not there before, with its first train. */
export async function addSystem(
  scope: FirmScope,
  { id, siteId, name, train }: { id: string; siteId: string; name: string; train: Train },
  now: Date,
): Promise<TrainPageDto> {
  if (!(await scope.findOne(Site, { id: siteId }))) throw notFound('site')
  if (await scope.findOne(System, { id })) throw new ApiError('CONFLICT', 'A system of this id is there already.')
  await scope.insert(System, { id, siteId, name, trainVersion: 1, intakeId: null, goneAt: null })
  const known = withFirmKinds(train, await kindsOf(scope))
  await takeStages(scope, id, known)
  await scope.insert(TrainVersion, { systemId: id, version: 1, train: known })
  await markSite(scope, now, siteId)
  return trainPage(scope, id)
}
