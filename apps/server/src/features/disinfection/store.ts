import type { ChlorineDto, chlorineEditSchema, DisinfectionRow } from '@evenround/contract/disinfections'
import { percentAfter } from '@evenround/core/disinfection'
import { addressText } from '@evenround/core/firm'
import { type Certificate, certificate, jobState, type LaboratoryLine, readLaboratory } from '@evenround/core/job'
import { daysBetween } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import Papa from 'papaparse'
import type { z } from 'zod'
import { ChlorineProduct, Disinfection } from '../../db/entities/disinfection'
import { Firm, Person, Site, System } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { ApiError, notFound } from '../../http/errors'
import { editVersioned } from '../../http/versions'
import { jobFacts } from '../facts/job'

/** A disinfection as its list reads it. */
interface ListedRow {
  id: string
  site_id: string
  site_name: string
  village: string
  targets: Disinfection['targets']
  stand: Disinfection['stand']
  next_act: Disinfection['nextAct']
  next_from: Date | null
  next_to: Date | null
  person_name: string
  dose_day: string
  again_on: string | null
  after_job: string | null
}

/** Disinfections, the latest first; of one site, or all. */
export async function disinfectionRows(scope: FirmScope, siteId?: string): Promise<DisinfectionRow[]> {
  const rows = await scope.query<ListedRow>(
    `select d.*, site.name as site_name, site.village, person.name as person_name from disinfection d
     join site on site.firm_id = d.firm_id and site.id = d.site_id and site.gone_at is null
     join person on person.firm_id = d.firm_id and person.id = d.technician_id
     where d.firm_id = $1 and ($2::uuid is null or d.site_id = $2) order by d.dose_day desc, d.id desc`,
    [siteId ?? null],
  )
  return rows.map((row) => ({
    id: row.id,
    siteId: row.site_id,
    siteName: row.site_name,
    village: row.village,
    targets: row.targets,
    stand: row.stand,
    act: row.next_act,
    from: row.next_from?.toISOString() ?? null,
    to: row.next_to?.toISOString() ?? null,
    technicianName: row.person_name,
    doseDay: row.dose_day,
    againOn: row.again_on,
    afterJob: row.after_job,
  }))
}

/** Jobs in this one's chain of repeats that ended positive before it. */
export async function earlierPositives(scope: FirmScope, job: Disinfection): Promise<number> {
  let count = 0
  for (let at = job.afterJob; at !== null; ) {
    const before: Disinfection | null = await scope.findOne(Disinfection, { id: at })
    if (!before || count > 50) break
    if (before.stand === 'positive' || before.stand === 'e-coli') count++
    at = before.afterJob
  }
  return count
}

function chlorineDto({ firmId: _, ...product }: ChlorineProduct, today: string): ChlorineDto {
  return { ...product, percentNow: percentNow(product, today) }
}
function percentNow({ form, percent, filledOn, storedAtC }: Omit<ChlorineProduct, 'firmId'>, today: string): number | null {
  return form === 'solid' || filledOn === null ? null : percentAfter(percent, Math.max(0, daysBetween(filledOn, today)), storedAtC)
}

export const chlorineProducts = async (scope: FirmScope, today: string): Promise<ChlorineDto[]> =>
  (await scope.find(ChlorineProduct, {}, { name: 'ASC' })).map((product) => chlorineDto(product, today))

/** Adds a jug (version 0) or edits one; an edit on an old version is refused with both sides. */
export async function putChlorine(
  scope: FirmScope,
  id: string,
  input: z.output<typeof chlorineEditSchema>,
  today: string,
): Promise<ChlorineDto> {
  const { version, ...patch } = input
  const dto = (product: ChlorineProduct): ChlorineDto => chlorineDto(product, today)
  if (version > 0) return editVersioned(scope, ChlorineProduct, { id, version, patch, what: 'product' }, dto)
  if (await scope.findOne(ChlorineProduct, { id })) throw new ApiError('CONFLICT', say`This product is there already.`)
  await scope.insert(ChlorineProduct, { id, version: 1, ...patch })
  return dto({ firmId: scope.firmId, id, version: 1, ...patch })
}

/** What stands in a laboratory's file. */
export function readLaboratoryFile(text: string): { lines: LaboratoryLine[]; problems: { line: number; text: string }[] } {
  const { data } = Papa.parse<string[]>(text.replace(/^\uFEFF/, ''), { skipEmptyLines: true })
  const read = readLaboratory(data)
  return read.ok ? { lines: read.lines, problems: [] } : { lines: [], problems: read.problems }
}

/** The certificate of a proved job. Throws where there is no such job, or nothing is proved yet. */
export async function certificateOf(scope: FirmScope, jobId: string): Promise<Certificate> {
  const job = await scope.findOne(Disinfection, { id: jobId })
  const firm = await scope.findOne(Firm, {})
  const site = job && (await scope.findOne(Site, { id: job.siteId }))
  if (!job || !firm || !site) throw notFound('disinfection')
  const facts = await jobFacts(scope, jobId)
  const people = new Map((await scope.find(Person)).map(({ id, name }) => [id, name]))
  const by = new Map(facts.map(({ fact, personId }) => [fact.id, people.get(personId) ?? '']))
  const state = jobState(facts.map(({ fact }) => fact))
  const systems = (await scope.find(System, { siteId: site.id })).filter(({ id }) => state.plan?.systemIds.includes(id))
  const made = certificate(jobId, state, {
    firmName: firm.name,
    siteName: site.name,
    siteAddress: addressText(site),
    systems: systems.map(({ name }) => name),
    personOf: (factId) => by.get(factId) ?? '',
  })
  if (!made) throw new ApiError('CONFLICT', say`Nothing is proved yet: a certificate comes with the laboratory’s clean result.`)
  return made
}
