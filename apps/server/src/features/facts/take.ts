import { isDeepStrictEqual } from 'node:util'
import { problemsOf } from '@evenround/contract/problems'
import type { FactResult } from '@evenround/contract/visit'
import { factSchema } from '@evenround/contract/visit'
import { hasRight } from '@evenround/core/firm'
import { type Fact, SAFETY_HOLDS, upgradeFact } from '@evenround/core/visit'
import { v7 as uuidv7 } from 'uuid'
import { FACT_TABLES, FactReceipt } from '../../db/entities/facts'
import { Stage, Stop, System } from '../../db/entities/master'
import { toComeAgain } from '../../db/errors'
import type { FirmScope } from '../../db/scope'
import type { Deps, Who } from '../../http/env'
import { noteDeed } from '../records/audit'
import { filedAt, sentOf } from '../records/filing'
import { bringBack } from '../records/gone'
import { type Ground, groundOf } from '../records/ground'
import { keepJudged } from '../wear/judged'
import { markByFact } from '../wear/stale'
import { leaveTheLists } from './done'
import { putFollowUp } from './follow'
import { mendSite } from './from-the-door'
import { followJob, planProblem, provenByJob } from './job'
import { isPlain, plainRowsOf } from './plain'
import { visitFacts } from './read'
import { hashOf, type Intake, rowsOf, usualFlags } from './rows'
import type { storedTogetherBy } from './together'

const refused = (id: string, reason: NonNullable<FactResult['reason']>, problems?: FactResult['problems']): FactResult => ({
  id,
  status: 'refused',
  flags: [],
  reason,
  ...(problems ? { problems } : {}),
})

const idOf = (raw: unknown): string => {
  const id = (raw as { id?: unknown } | null)?.id
  return typeof id === 'string' ? id : ''
}

interface Stored {
  result: FactResult
  /** Forecasts have to be recomputed for it. */
  stale: boolean
}

/** Sent again in the words of another protocol, or after what is stored was rewritten: it is judged by what it says. */
async function saysTheSame(scope: FirmScope, fact: Fact): Promise<boolean> {
  const [stored] = await visitFacts(scope, fact.visitId, [fact.kind], fact.id)
  // The instant may have been put right for a device whose clock was off, and the site merged or the system moved since.
  return stored !== undefined && isDeepStrictEqual({ ...stored.fact, at: fact.at, siteId: fact.siteId }, fact)
}

async function missingReference(scope: FirmScope, fact: Fact, { site }: Ground): Promise<FactResult['reason'] | null> {
  if (!site) return 'unknown-site'
  if (site.gone) await bringBack(scope, fact.siteId)
  if (fact.kind === 'visit-begun' || fact.kind === 'tds-reading' || fact.kind === 'stage-reading' || fact.kind === 'fault-noted') {
    if (!(await isAt(scope, fact.systemId, fact.siteId))) return 'unknown-reference'
  }
  if (
    fact.kind === 'part-removed' ||
    fact.kind === 'part-fitted' ||
    ((fact.kind === 'stage-reading' || fact.kind === 'fault-noted') && fact.stageId !== null)
  ) {
    const stage = await scope.findOne(Stage, { id: fact.stageId as string })
    if (!stage || !(await isAt(scope, stage.systemId, fact.siteId))) return 'unknown-reference'
  }
  if (fact.kind === 'fault-settled' && !(await scope.findOne(FACT_TABLES['fault-noted'], { faultId: fact.faultId, siteId: fact.siteId })))
    return 'unknown-reference'
  if (
    (fact.kind === 'hold-lifted' || fact.kind === 'hold-told') &&
    !(await scope.findOne(FACT_TABLES['hold-begun'], { id: fact.holdId, siteId: fact.siteId }))
  )
    return 'unknown-reference'
  return null
}

/** A safety hold is lifted only by whoever may, with a proof; one that ends by time by whoever is there. */
async function mayNotLift(scope: FirmScope, fact: Fact, who: Who): Promise<FactResult['reason'] | null> {
  if (fact.kind !== 'hold-lifted' || hasRight(who.role, 'lift-safety-hold')) return null
  const hold = await scope.findOne(FACT_TABLES['hold-begun'], { id: fact.holdId })
  // One that has an end of its own (a bed that soaks) is over when its time is.
  const over = hold?.until !== null && hold?.until !== undefined && hold.until.getTime() <= Date.parse(fact.at)
  if (!hold || !SAFETY_HOLDS.includes(hold.holdKind) || over) return null
  // What the job's own strips or its laboratory prove is lifted on that, whoever holds the phone.
  return (await provenByJob(scope, hold)) ? null : 'hold-needs-right'
}

/** A correction names a fact of the same kind; technicians correct their own. */
async function badCorrection(scope: FirmScope, fact: Fact, who: Who): Promise<FactResult['reason'] | null> {
  if (fact.supersedes === null) return fact.voided ? 'unknown-reference' : null
  const earlier = await scope.findOne(FactReceipt, { id: fact.supersedes })
  if (!earlier || earlier.kind !== fact.kind || earlier.visitId !== fact.visitId) return 'unknown-reference'
  return earlier.personId !== who.personId && !hasRight(who.role, 'edit-sites') ? 'not-own' : null
}

/** What moved on meanwhile: noted on the fact, never a reason to refuse work that was done. */
async function flagsFor(scope: FirmScope, fact: Fact, { closedAt }: Ground, skewMs: number): Promise<FactResult['flags']> {
  const flags = usualFlags(fact, closedAt, skewMs)
  if (fact.kind === 'visit-begun') {
    if (fact.stopId !== null && !(await scope.findOne(Stop, { id: fact.stopId }))) flags.push('stop-changed')
    const system = await scope.findOne(System, { id: fact.systemId })
    if (system && system.trainVersion !== fact.trainVersion) flags.push('train-changed')
  }
  return flags
}

/** Whether the system hangs at the site, or did when the work was done there. */
async function isAt(scope: FirmScope, systemId: string, siteId: string): Promise<boolean> {
  const found = await scope.query(
    `select 1 from system y where y.firm_id = $1 and y.id = $2 and (y.site_id = $3
       or exists (select 1 from site_move m where m.firm_id = y.firm_id and m.system_id = y.id and m.from_site = $3))`,
    [systemId, siteId],
  )
  return found.length > 0
}

async function store(scope: FirmScope, sent: Fact, intake: Intake, now: Date): Promise<Stored> {
  const bodyHash = hashOf(sent)
  // Two sends of one fact at once: the second waits here for the first to commit, then finds its receipt.
  await scope.query('select pg_advisory_xact_lock(hashtextextended($1::text || $2::text, 0))', [sent.id])
  const fact: Fact = { ...sent, siteId: await filedAt(scope, sentOf(sent)) }
  const ground = await groundOf(scope, fact)
  const { receipt: had } = ground
  if (had) {
    const same = had.bodyHash === bodyHash || (had.kind === fact.kind && (await saysTheSame(scope, fact)))
    const result = same
      ? ({ id: fact.id, status: 'already-had', flags: had.flags as FactResult['flags'] } as const)
      : refused(fact.id, 'id-reused')
    return { result, stale: false }
  }
  const missing =
    (await missingReference(scope, fact, ground)) ??
    (await badCorrection(scope, fact, intake.who)) ??
    (await mayNotLift(scope, fact, intake.who))
  if (missing) return { result: refused(fact.id, missing), stale: false }
  const problem = fact.kind === 'job-planned' && !fact.voided ? await planProblem(scope, fact) : null
  if (problem) return { result: refused(fact.id, 'bad-form', [problem]), stale: false }
  const flags = await flagsFor(scope, fact, ground, intake.skewMs)
  const { receipt, row, at, flags: noted } = rowsOf(fact, bodyHash, flags, intake, now)
  await scope.insertTogether([
    [FactReceipt, [receipt]],
    [FACT_TABLES[fact.kind], [row]],
  ])
  if (fact.kind === 'part-removed' && !fact.voided && fact.supersedes === null) await keepJudged(scope, fact, at)
  const stale = await markByFact(scope, now, fact)
  if (fact.kind === 'site-mended' && !fact.voided) await mendSite(scope, fact)
  if (fact.kind === 'visit-finished' && !fact.voided) {
    await leaveTheLists(scope, fact)
    await putFollowUp(scope, fact, intake.who.personId)
  }
  if (fact.kind === 'hold-lifted' && !fact.voided)
    await noteDeed(scope, { now: () => now, newId: uuidv7 }, intake.who, 'hold-lifted', fact.proof, fact.siteId)
  if (ground.isJob || fact.kind === 'job-planned') await followJob(scope, fact, now)
  return { result: { id: fact.id, status: 'accepted', flags: noted }, stale }
}

export interface Taken {
  results: FactResult[]
  /** What was stored now, in order. */
  accepted: Fact[]
}

/** A deadlock or a serialization failure: the same again will do. */
const AGAIN = new Set(['40001', '40P01'])
const TRIES = 3

/**
 * Stores one fact in a transaction of its own. What cannot be stored is answered as refused, with its cause in the log: it must not
 * hold up the facts behind it for ever. A database that is away or too busy is another matter: the whole batch comes again.
 */
async function stored(deps: Deps, fact: Fact, intake: Intake): Promise<Stored> {
  for (let tries = 1; ; tries++) {
    try {
      return await deps.inFirm(intake.who.firmId, (scope) => store(scope, fact, intake, deps.now()))
    } catch (error) {
      if (toComeAgain(error)) throw error
      if (tries < TRIES && AGAIN.has(String((error as { code?: unknown }).code))) continue
      deps.log('error', 'fact-not-stored', {
        id: fact.id,
        kind: fact.kind,
        cause: error instanceof Error ? (error.stack ?? error.message) : String(error),
      })
      return { result: refused(fact.id, 'not-stored'), stale: false }
    }
  }
}

/** With where plain facts of all phones come together. */
export type TakeDeps = Deps & { storeTogether: ReturnType<typeof storedTogetherBy> }

/** Beginnings and ticks in a row, of which one statement takes a hundred as easily as one; the others of them are judged one by one. */
async function storedTogether(deps: TakeDeps, facts: readonly Fact[], intake: Intake): Promise<Map<string, FactResult>> {
  if (facts.length === 0) return new Map()
  try {
    const rows = plainRowsOf(facts, intake, deps.now())
    const standing = await deps.storeTogether(intake.who.firmId, rows)
    return new Map([...rows.results].filter(([id]) => standing.has(id)))
  } catch (error) {
    if (toComeAgain(error)) throw error
    // Whatever it was, one by one it is found out which.
    return new Map()
  }
}

/** The facts from here on that wait for nothing and of which nothing but their row is made. */
function plainFrom(parsed: readonly (Fact | null)[], from: number): Fact[] {
  const run: Fact[] = []
  for (let at = from; at < parsed.length; at++) {
    const fact = parsed[at]
    if (!fact || !isPlain(fact)) break
    run.push(fact)
  }
  return run
}

/**
 * Judges a batch fact by fact, each stored with its receipt in one transaction: its own, or that of the ticks beside it. Sending one again is
 * harmless. What depends on a refused fact (its visit's beginning, the fact it corrects) waits with it.
 */
export async function takeFacts(deps: TakeDeps, raw: readonly unknown[], intake: Intake, protocol: number): Promise<Taken> {
  const results: FactResult[] = []
  const accepted: Fact[] = []
  let anyStale = false
  const refusedFacts = new Set<string>()
  const refusedVisits = new Set<string>()
  const upgraded = raw.map((sent) => upgradeFact(sent, protocol))
  const read = upgraded.map((one) => factSchema.safeParse(one))
  const facts = read.map((one) => (one.success ? one.data : null))
  let together = new Map<string, FactResult>()
  let togetherTo = 0
  for (const [index, parsed] of read.entries()) {
    if (!parsed.success) {
      const id = idOf(upgraded[index])
      refusedFacts.add(id)
      results.push(refused(id, 'bad-form', problemsOf(parsed.error, upgraded[index])))
      continue
    }
    const fact = parsed.data
    const waits = refusedVisits.has(fact.visitId) || (fact.supersedes !== null && refusedFacts.has(fact.supersedes))
    const right = fact.kind === 'site-mended' ? 'mend-at-door' : 'record-facts'
    const may = hasRight(intake.who.role, right)
    if (may && !waits && index >= togetherTo && isPlain(fact)) {
      const run = plainFrom(facts, index)
      togetherTo = index + run.length
      together = await storedTogether(
        deps,
        run.filter(({ visitId }) => !refusedVisits.has(visitId)),
        intake,
      )
    }
    const done = together.get(fact.id)
    // The same id a second time is judged by what the first left.
    together.delete(fact.id)
    const { result, stale } = !may
      ? { result: refused(fact.id, 'no-right'), stale: false }
      : waits
        ? { result: refused(fact.id, 'depends-on-refused'), stale: false }
        : done
          ? { result: done, stale: false }
          : await stored(deps, fact, intake)
    anyStale ||= stale
    if (result.status === 'accepted') accepted.push(fact)
    if (result.status === 'refused') {
      refusedFacts.add(fact.id)
      if (fact.kind === 'visit-begun') refusedVisits.add(fact.visitId)
    }
    results.push(result)
  }
  if (anyStale) await deps.refreshSoon(intake.who.firmId)
  return { results, accepted }
}
