import type { VisitTime } from '@evenround/contract/site'
import { learnedMinutes } from '@evenround/core/schedule'
import { type SheetMinutes, type SheetSchools, shapeKey, type Task, type Train, visitMinutes } from '@evenround/core/train'
import { Firm } from '../../db/entities/master'
import type { FirmScope } from '../../db/scope'
import { counting } from '../records/counting'
import { factsStand, perFirm } from '../records/per-firm'

/** Sheets are written once for trains that are drawn alike. */
const MOST_KEPT = 4000
const kept = new Map<string, SheetMinutes | null>()

function bySheet(train: Train, tasks: readonly Task[], schools: SheetSchools): SheetMinutes | null {
  const key = shapeKey(train, tasks, schools)
  const known = kept.get(key)
  if (known !== undefined) return known
  const made = visitMinutes(train, tasks, schools)
  if (kept.size >= MOST_KEPT) kept.clear()
  kept.set(key, made)
  return made
}

const mediaOf = (train: Train): string =>
  train.nodes
    .flatMap((node) => (node.kind === 'stage' ? [`${node.position} ${node.media}`] : []))
    .sort()
    .join()
/** Visits of one kind: systems with the same stages, and as many of them worked on. */
const kindOf = (train: Train, stages: number): string => `${mediaOf(train)}/${stages}`

/** What is usual for a task where no sheet can be written, minutes of hands. */
const WITHOUT_SHEET_MIN = 15
/** A visit shorter or longer than this was not recorded as it went. */
const [LEAST_MIN, MOST_MIN] = [4, 480]
const REMEMBERED = 40

interface SeenRow {
  train: Train
  person_id: string
  tasks: Task[]
  minutes: number
  clock_min: number | null
}

export interface MinutesBook {
  /** What a visit with this work takes, by the firm's own visits like it; beside it by the one person's alone. */
  of: (train: Train, tasks: readonly Task[], personId?: string | null) => VisitTime
}

/**
 * The firm's own minutes: from arrival to departure of finished visits, without what its clocks ran (or, where none was started, what the
 * sheet gives them). Ticks are no clocks: steps are ticked when there is a hand free.
 */
export async function minutesBook(scope: FirmScope): Promise<MinutesBook> {
  const firm = await scope.findOne(Firm, {})
  if (!firm) throw new Error(`firm ${scope.firmId} is gone`)
  const { schools } = firm
  const seen = await seenMinutes(scope, schools)
  return {
    of: (train, tasks, personId = null) => {
      const sheet = bySheet(train, tasks, schools)
      const usual = sheet?.handsOnMin ?? WITHOUT_SHEET_MIN * tasks.length
      const kind = kindOf(train, tasks.length)
      const own = personId === null ? undefined : seen.get(`${kind}/${personId}`)
      const { minutes, from } = learnedMinutes(usual, seen.get(kind) ?? [])
      const theirs = own === undefined ? null : learnedMinutes(usual, own)
      return {
        handsOnMin: minutes,
        waitingMin: sheet?.waitingMin ?? 0,
        sheetMin: usual,
        learnedFrom: from,
        own: theirs && { handsOnMin: theirs.minutes, from: theirs.from },
      }
    },
  }
}

type Seen = ReadonlyMap<string, readonly number[]>
/** Every opening of a day asks for it, and it changes only with the facts of visits. */
const remembered = perFirm<Seen>(200)

async function seenMinutes(scope: FirmScope, schools: SheetSchools): Promise<Seen> {
  const stands = await factsStand(scope, ['fact_visit_begun', 'fact_visit_finished', 'fact_timer_started'])
  return remembered(scope.firmId, JSON.stringify([stands, schools]), () => readMinutes(scope, schools))
}

async function readMinutes(scope: FirmScope, schools: SheetSchools): Promise<Seen> {
  const rows = await scope.query<SeenRow>(
    `select t.train, f.person_id, f.tasks, extract(epoch from done.at - f.at)::float8 / 60 as minutes,
       (select sum(c.seconds)::float8 / 60 from fact_timer_started c where c.firm_id = $1 and c.visit_id = f.visit_id and not c.voided) as clock_min
     from fact_visit_begun f
     join fact_visit_finished done on done.firm_id = $1 and done.visit_id = f.visit_id and not done.voided and done.outcome = 'done'
     join train_version t on t.firm_id = $1 and t.system_id = f.system_id and t.version = f.train_version
     where f.firm_id = $1 and ${counting('fact_visit_begun')} and f.at > (select max(at) from fact_visit_finished where firm_id = $1) - interval '2 years'
       and done.at - f.at between interval '${LEAST_MIN} minutes' and interval '${MOST_MIN} minutes'
     order by f.at desc limit 5000`,
    [],
  )
  const seen = new Map<string, number[]>()
  const add = (key: string, minutes: number): void => {
    const all = seen.get(key) ?? []
    if (all.length < REMEMBERED) seen.set(key, [...all, minutes])
  }
  for (const { train, person_id, tasks, minutes, clock_min } of rows) {
    const sheet = bySheet(train, tasks, schools)
    const hands = minutes - (clock_min ?? sheet?.waitingMin ?? 0)
    if (tasks.length === 0 || hands < LEAST_MIN) continue
    const kind = kindOf(train, tasks.length)
    add(kind, hands)
    add(`${kind}/${person_id}`, hands)
  }
  return seen
}

/** Minutes there from door to door, whole. */
export const minutesThere = ({ handsOnMin, waitingMin }: Pick<VisitTime, 'handsOnMin' | 'waitingMin'>, accessMin: number): number =>
  Math.max(5, Math.round(accessMin + handsOnMin + waitingMin))
