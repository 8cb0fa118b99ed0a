import { isDeepStrictEqual } from 'node:util'
import type { SiteChanges } from '@evenround/contract/site'
import { SITE_FIELDS } from '@evenround/core/firm'
import { recordOf } from '../../db/columns'
import { Site } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { notFound } from '../../http/errors'

/**
 * An edit that was made without a network, field by field: what still stands as the device saw it is changed; what somebody else changed
 * meanwhile stays as theirs, and is named. Sent twice it is the same.
 */
export async function mergeEdit(scope: FirmScope, id: string, { before, after }: SiteChanges): Promise<{ id: string; theirs: string[] }> {
  await scope.query('select 1 from site where firm_id = $1 and id = $2 for update', [id])
  const site = await scope.findOne(Site, { id })
  if (!site) throw notFound('site')
  if (site.mergedInto !== null) return mergeEdit(scope, site.mergedInto, { before, after })
  if (site.goneAt !== null) throw notFound('site')
  const now: Record<string, unknown> = recordOf(SITE_FIELDS, site)
  const fields = Object.keys(after) as (keyof SiteChanges['after'])[]
  const open = fields.filter((field) => !isDeepStrictEqual(now[field], after[field]))
  const mine = open.filter((field) => isDeepStrictEqual(now[field], before[field]))
  // A position is one thing: half of it is nowhere.
  const whole = mine.filter(
    (field) => !['lat', 'lon'].includes(field) || (['lat', 'lon'] as const).every((one) => !open.includes(one) || mine.includes(one)),
  )
  if (whole.length > 0)
    await scope.update(Site, { id }, { ...Object.fromEntries(whole.map((field) => [field, after[field]])), version: site.version + 1 })
  return { id, theirs: open.filter((field) => !whole.includes(field)).sort() }
}
