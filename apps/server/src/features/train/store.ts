import { isDeepStrictEqual } from 'node:util'
import { type SystemNew, storedTrainSchema, type TrainChanges, type TrainPageDto } from '@evenround/contract/train-edit'
import { mergeTrains, stageLabel, stagesInFlow, type Train, type TrainNode } from '@evenround/core/train'
import { say } from '@evenround/core/words'
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
  return {
    systemId,
    siteId: site.id,
    siteName: site.name,
    name: system.name,
    serialNo: system.serialNo,
    version: system.trainVersion,
    train: stored.train,
  }
}

/** Stages of the train that the system has not had yet become lasting places of it; one of another system cannot. */
async function takeStages(scope: FirmScope, systemId: string, train: Train): Promise<void> {
  const nodes = stagesInFlow(train)
  const known = new Map((await scope.find(Stage, { id: In(nodes.map(({ id }) => id)) })).map((stage) => [stage.id, stage]))
  const foreign = nodes.find(({ id }) => known.has(id) && known.get(id)?.systemId !== systemId)
  if (foreign) {
    const index = train.nodes.findIndex(({ id }) => id === foreign.id)
    throw badInput([{ path: `train.nodes[${index}].id`, message: say`expected a stage of this system, got one of another` }])
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

/** Who changes it, and when. */
interface By {
  personId: string
  now: Date
}

/** Stores a new version of a system's train. Visits that began on an earlier one go on with it. */
export async function saveTrain(
  scope: FirmScope,
  systemId: string,
  { version, name, serialNo, train }: Pick<SystemNew, 'name' | 'serialNo' | 'train'> & { version: number },
  { personId, now }: By,
): Promise<TrainPageDto> {
  // One edit at a time: the second waits here and then finds the version moved on.
  await scope.query('select id from system where firm_id = $1 and id = $2 for update', [systemId])
  const before = await trainPage(scope, systemId)
  if (before.version !== version)
    throw new ApiError('STALE_VERSION', say`Somebody else changed this train meanwhile. Both are shown; choose, then save again.`, {
      current: before,
    })
  const known = withFirmKinds(train, await kindsOf(scope))
  await takeStages(scope, systemId, known)
  await scope.insert(TrainVersion, { systemId, version: version + 1, train: known, drawnBy: personId, drawnAt: now })
  await scope.update(System, { id: systemId }, { trainVersion: version + 1, name, ...(serialNo === undefined ? {} : { serialNo }) })
  const kept = new Set(stagesInFlow(train).map(({ id }) => id))
  const gone = stagesInFlow(before.train).flatMap(({ id }) => (kept.has(id) ? [] : [id]))
  await markSite(scope, now, before.siteId)
  // What is plumbed no more is due no more.
  for (const table of ['stage_forecast', 'stale_stage'])
    await scope.query(`delete from ${table} where firm_id = $1 and stage_id = any($2)`, [gone])
  return trainPage(scope, systemId)
}

/** What people call a thing of a train where they are told of it. */
const called = (node: TrainNode | undefined): string => (node?.kind === 'stage' ? stageLabel(node) : say`the ${node?.kind ?? say`part`}`)

/**
 * An edit that was made without a network: what still stands as the device saw it is changed; what somebody else changed meanwhile stays as
 * theirs, and is said in words. Sent twice it is the same.
 */
export async function mergeTrainEdit(scope: FirmScope, systemId: string, { before, after }: TrainChanges, by: By): Promise<string[]> {
  await scope.query('select id from system where firm_id = $1 and id = $2 for update', [systemId])
  const now = await trainPage(scope, systemId)
  const plain = (field: 'name' | 'serialNo'): boolean =>
    now[field] !== after[field] && now[field] !== before[field] && before[field] !== after[field]
  const one = (field: 'name' | 'serialNo'): string => (now[field] === before[field] ? after[field] : now[field])
  const merged = mergeTrains(before.train, now.train, after.train)
  // What each says alone may not go together: then theirs stands whole.
  const sound = storedTrainSchema.safeParse(merged.train).success
  const train = sound ? merged.train : now.train
  const next = { name: one('name'), serialNo: one('serialNo'), train }
  if (!isDeepStrictEqual(next, { name: now.name, serialNo: now.serialNo, train: now.train }))
    await saveTrain(scope, systemId, { version: now.version, ...next }, by)
  return [
    ...(plain('name') ? ['name'] : []),
    ...(plain('serialNo') ? [say`serial number`] : []),
    ...(merged.built || !sound ? [say`how it is put together`] : []),
    ...merged.theirs.map((id) => say`what is known of ${called(now.train.nodes.find((node) => node.id === id))}`),
  ]
}

/** A system that was not there before, with its first train. */
export async function addSystem(scope: FirmScope, { id, siteId, name, serialNo = '', train }: SystemNew, now: Date): Promise<TrainPageDto> {
  if (!(await scope.findOne(Site, { id: siteId }))) throw notFound('site')
  const there = await scope.findOne(System, { id })
  // Sent once more by a device that did not hear the answer.
  if (there?.siteId === siteId && there.goneAt === null) return trainPage(scope, id)
  if (there) throw new ApiError('CONFLICT', say`A system of this id is there already.`)
  await scope.insert(System, { id, siteId, name, serialNo, trainVersion: 1, intakeId: null, goneAt: null })
  const known = withFirmKinds(train, await kindsOf(scope))
  await takeStages(scope, id, known)
  await scope.insert(TrainVersion, { systemId: id, version: 1, train: known })
  await markSite(scope, now, siteId)
  return trainPage(scope, id)
}
