import type { LifeDto, LifeKind } from '@evenround/contract/book'
import type { FactKind } from '@evenround/core/visit'
import { Site } from '../db/entities/master'
import type { FirmScope } from '../db/scope'
import { pastOf } from '../firm-file/papers'
import { notFound } from '../http/errors'

/** Lines a screen takes. */
const MOST = 500

const KIND: Partial<Record<FactKind, LifeKind>> = {
  'visit-begun': 'visit',
  'visit-finished': 'visit',
  'tds-reading': 'reading',
  'stage-reading': 'reading',
  'part-removed': 'part',
  'part-fitted': 'part',
  'hold-begun': 'hold',
  'hold-lifted': 'hold',
  'hold-told': 'hold',
  'job-planned': 'disinfection',
  'chlorine-dosed': 'disinfection',
  'strip-read': 'disinfection',
  'sample-taken': 'disinfection',
  'sample-result': 'disinfection',
  'job-day-ended': 'disinfection',
  'fault-noted': 'fault',
  'fault-settled': 'fault',
}

/** A site's whole past on one line of time, the newest first; of one that has left too. */
export async function lifePage(scope: FirmScope, id: string): Promise<LifeDto> {
  const site = await scope.findOne(Site, { id })
  if (!site) throw notFound('site')
  const lines = (await pastOf(scope.manager, [id], MOST + 1)).reverse()
  return {
    siteName: site.name,
    lines: lines.slice(0, MOST).map(({ id: factId, at, kind, text, visitId, over }) => ({
      id: factId,
      at: new Date(at).toISOString(),
      kind: KIND[kind] ?? 'other',
      text,
      visitId,
      over,
    })),
    more: lines.length > MOST,
  }
}
