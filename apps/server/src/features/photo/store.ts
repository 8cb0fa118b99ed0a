import type { PhotoDto, PhotoOf, SystemPhotoDto } from '@evenround/contract/photo'
import type { FirmScope } from '../../db/scope'

export interface Picture {
  jpeg: Buffer
  width: number
  height: number
}

export interface KeptPlace {
  siteId: string
  takenAt: string
  what: PhotoOf
  visitId: string | null
  stageId: string | null
  systemId: string | null
}

/** Where pictures are kept: shared by all server processes, scoped by the firm. */
export interface PhotoStore {
  /** False when a photo of this id is there already. */
  put: (id: string, place: KeptPlace, personId: string, arrivedAt: Date, picture: Picture) => Promise<boolean>
  get: (id: string) => Promise<Buffer | null>
  ofVisit: (visitId: string) => Promise<PhotoDto[]>
  /** What stays with these systems, the newest first. */
  ofSystems: (systemIds: readonly string[]) => Promise<SystemPhotoDto[]>
}

/** Pictures in the database, their bytes in a table of their own. */
export const databasePhotos = (scope: FirmScope): PhotoStore => ({
  async put(id, { siteId, visitId, stageId, systemId, what, takenAt }, personId, arrivedAt, { jpeg, width, height }) {
    const added = await scope.query(
      `insert into photo (firm_id, id, site_id, visit_id, stage_id, person_id, taken_at, arrived_at, width, height, system_id, what)
       values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12) on conflict do nothing returning 1`,
      [id, siteId, visitId, stageId, personId, takenAt, arrivedAt, width, height, systemId, what],
    )
    if (added.length === 0) return false
    await scope.query('insert into photo_bytes (firm_id, photo_id, bytes) values ($1, $2, $3)', [id, jpeg])
    return true
  },
  async get(id) {
    const [row] = await scope.query<{ bytes: Buffer }>('select bytes from photo_bytes where firm_id = $1 and photo_id = $2', [id])
    return row?.bytes ?? null
  },
  async ofSystems(systemIds) {
    if (systemIds.length === 0) return []
    const rows = await scope.query<{ id: string; system_id: string; what: PhotoOf; taken_at: Date; width: number; height: number }>(
      `select id, system_id, what, taken_at, width, height from photo where firm_id = $1 and system_id = any($2) order by taken_at desc, id`,
      [systemIds],
    )
    return rows.map(({ system_id, taken_at, ...row }) => ({ ...row, systemId: system_id, takenAt: taken_at.toISOString() }))
  },
  async ofVisit(visitId) {
    const rows = await scope.query<{ id: string; stage_id: string; taken_at: Date; width: number; height: number }>(
      'select id, stage_id, taken_at, width, height from photo where firm_id = $1 and visit_id = $2 and stage_id is not null order by taken_at, id',
      [visitId],
    )
    return rows.map(({ id, stage_id, taken_at, width, height }) => ({
      id,
      stageId: stage_id,
      takenAt: taken_at.toISOString(),
      width,
      height,
    }))
  },
})
