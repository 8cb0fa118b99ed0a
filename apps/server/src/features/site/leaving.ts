import type { LeftSiteDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'

/** A site of this firm that has neither left, nor been erased, nor been merged into another. */
export async function standing(scope: FirmScope, id: string): Promise<Site> {
  const site = await scope.findOne(Site, { id })
  if (!site || site.goneAt !== null) throw notFound('site')
  return site
}

/** Planned stops that nobody has begun; what was done stays. */
const FUTURE = `s.firm_id = $1 and s.site_id = $2 and not exists (select 1 from fact_visit_begun b where b.firm_id = s.firm_id and b.stop_id = s.id)
  and s.day >= $3`

/** Off the round and off every screen: its stops to come, and its systems. */
async function takeOff(scope: FirmScope, id: string, now: Date, today: string): Promise<void> {
  await scope.query(`delete from stop_task t using stop s where t.firm_id = s.firm_id and t.stop_id = s.id and ${FUTURE}`, [id, today])
  await scope.query(`delete from stop s where ${FUTURE}`, [id, today])
  await scope.query('update system set gone_at = $3 where firm_id = $1 and site_id = $2 and gone_at is null', [id, now])
}

/** A customer left: the site leaves every screen and the round; its past stays in the book. */
export async function leave(scope: FirmScope, id: string, now: Date, today: string): Promise<void> {
  await standing(scope, id)
  await takeOff(scope, id, now, today)
  await scope.query(`update site set gone_at = $3, gone_why = 'left', version = version + 1 where firm_id = $1 and id = $2`, [id, now])
}

/** They are back, or somebody else moved in: the site and the systems that left with it stand again. */
export async function comeBack(scope: FirmScope, id: string): Promise<void> {
  const [site] = await scope.query<{ gone_at: Date }>(
    `select gone_at from site where firm_id = $1 and id = $2 and gone_why = 'left' for update`,
    [id],
  )
  if (!site) throw new ApiError('NOT_FOUND', say`No such site has left.`)
  await scope.query('update system set gone_at = null where firm_id = $1 and site_id = $2 and gone_at = $3', [id, site.gone_at])
  await scope.query('update site set gone_at = null, gone_why = null, version = version + 1 where firm_id = $1 and id = $2', [id])
}

/** Sites whose customers left, the latest first. */
export async function leftSites(scope: FirmScope): Promise<LeftSiteDto[]> {
  const rows = await scope.query<{ id: string; name: string; village: string; gone_at: Date }>(
    `select id, name, village, gone_at from site where firm_id = $1 and gone_why = 'left' order by gone_at desc, name`,
  )
  return rows.map(({ gone_at, ...row }) => ({ ...row, leftAt: gone_at.toISOString() }))
}

/** Takes everything that says who the customer is out of the records; the work stays. */
export async function erase(scope: FirmScope, id: string, name: string, now: Date, today: string): Promise<void> {
  const site = await scope.findOne(Site, { id })
  if (!site || site.goneWhy === 'erased') throw notFound('site')
  if (site.name.trim() !== name.trim())
    throw new ApiError('BAD_INPUT', say`This is not the name of the site: nothing was erased.`, {
      fields: [{ path: 'name', message: say`not the name of the site` }],
    })
  await takeOff(scope, id, now, today)
  // What was merged into it is the same customer under another name.
  const same = await scope.query<{ id: string }>('select id from site where firm_id = $1 and merged_into = $2', [id])
  for (const one of [{ id }, ...same]) await scope.manager.query('select erase_site($1, $2)', [one.id, now])
}
