import type { LifeDto, LifeKind } from '@evenround/contract/book'
import type { FactKind } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
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

/** What came to this site from another, or went to one. */
async function movesOf(scope: FirmScope, siteId: string) {
  const rows = await scope.query<{ id: string; at: Date; system: string | null; from: string; to: string; came: boolean; person: string }>(
    `select m.id, m.at, y.name as system, f.name as from, t.name as to, m.to_site = $2 as came, p.name as person from site_move m
     join site f on f.firm_id = m.firm_id and f.id = m.from_site join site t on t.firm_id = m.firm_id and t.id = m.to_site
     join person p on p.firm_id = m.firm_id and p.id = m.person_id left join system y on y.firm_id = m.firm_id and y.id = m.system_id
     where m.firm_id = $1 and (m.from_site = $2 or m.to_site = $2)`,
    [siteId],
  )
  return rows.map(({ id, at, system, from, to, came, person }) => ({
    id,
    at: at.toISOString(),
    kind: 'other' as const,
    visitId: null,
    over: false,
    text:
      system === null
        ? say`${from} was merged into this site: it is the same place (${person})`
        : came
          ? say`${system} came here from ${from} (${person})`
          : say`${system} went from here to ${to} (${person})`,
  }))
}

/** A site's whole past on one line of time, the newest first; of one that has left too. */
export async function lifePage(scope: FirmScope, id: string): Promise<LifeDto> {
  const site = await scope.findOne(Site, { id })
  if (!site) throw notFound('site')
  if (site.mergedInto) return lifePage(scope, site.mergedInto)
  const past = (await pastOf(scope.manager, [id], MOST + 1)).map(({ kind, ...line }) => ({
    ...line,
    kind: KIND[kind] ?? ('other' as const),
  }))
  const lines = [...(await movesOf(scope, id)), ...past.reverse()].sort((a, b) => Date.parse(b.at) - Date.parse(a.at))
  return {
    siteName: site.name,
    lines: lines.slice(0, MOST).map(({ id: factId, at, kind, text, visitId, over }) => ({
      id: factId,
      at: new Date(at).toISOString(),
      kind,
      text,
      visitId,
      over,
    })),
    more: lines.length > MOST,
  }
}
