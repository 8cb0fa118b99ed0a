// What a plan of the year is worth: the same firm, people, wear and chance under six ways of planning, three simulated years each.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { type Calendar, calendarOf } from './year/calendar'
import { type Measured, runFirm } from './year/days'
import { drawFirm, type Firm, WEEKS } from './year/firm'
import { byCalendar, byPrintedDates, byQuarter, byYear, type Planner, whenDue } from './year/plans'

const print = (text: string): void => void process.stdout.write(`${text}\n`)
const SEEDS = Number(process.env.BENCH_SEEDS ?? 5)
/** For each plan of a quarter or of a year. */
const SECONDS = Number(process.env.BENCH_PLAN_SECONDS ?? 1)

const [PRINTED, ONE_BY_ONE, BY_WEEK, QUARTER] = [
  'printed dates',
  'due dates one by one',
  'due dates by the week',
  'quarter by quarter',
] as const
type Way = (firm: Firm, calendar: Calendar) => Planner
const WAYS: Record<string, Way> = {
  'every six months': byCalendar,
  [PRINTED]: byPrintedDates,
  [ONE_BY_ONE]: (firm, calendar) => whenDue(firm, calendar, { onItsDay: true }),
  [BY_WEEK]: (firm, calendar) => whenDue(firm, calendar),
  [QUARTER]: (firm, calendar) => byQuarter(firm, calendar, SECONDS),
  'the year': (firm, calendar) => byYear(firm, calendar, SECONDS),
}
const FIGURES: [label: string, of: (measured: Measured) => number, digits: number][] = [
  ['variation of weekly hours, %', ({ variation }) => 100 * variation, 1],
  ['hours driven a year', ({ drivenH }) => drivenH / 2, 0],
  ['days over eight hours a year', ({ longDays }) => longDays / 2, 1],
  ['visits a year', ({ visits }) => visits / 2, 0],
  ['parts a year', ({ parts }) => parts / 2, 0],
  ['days past the end a year, all parts', ({ pastDays }) => pastDays / 2, 0],
  ['of them after the forecast’s due day', ({ knownDays }) => knownDays / 2, 0],
  ['emergency calls a year', ({ calls }) => calls / 2, 1],
  ['visits moved after they were promised a year', ({ moved }) => moved / 2, 1],
]

/** Results are kept as they come: a run that was stopped goes on where it was. */
class Kept {
  private readonly file: string
  private readonly known: Record<string, Measured>

  constructor(folder: string, name: string) {
    mkdirSync(folder, { recursive: true })
    this.file = join(folder, name)
    this.known = existsSync(this.file) ? JSON.parse(readFileSync(this.file, 'utf8')) : {}
  }
  of(key: string, make: () => Measured): Measured {
    const had = this.known[key]
    if (had) return had
    const made = make()
    this.known[key] = made
    writeFileSync(this.file, JSON.stringify(this.known))
    return made
  }
}

const mean = (values: readonly number[]): number => values.reduce((sum, one) => sum + one, 0) / values.length
const spread = (values: readonly number[]): number => Math.sqrt(mean(values.map((one) => (one - mean(values)) ** 2)))

function table(
  title: string,
  ways: readonly string[],
  seeds: readonly number[],
  measure: (way: string, seed: number) => Measured,
): Map<string, Measured[]> {
  const all = new Map(ways.map((way) => [way, [] as Measured[]]))
  for (const seed of seeds)
    for (const way of ways) {
      const began = performance.now()
      all.get(way)?.push(measure(way, seed))
      process.stderr.write(`${title}, seed ${seed}, ${way}: ${((performance.now() - began) / 1000).toFixed(1)} s\n`)
    }
  print(`\n**${title}**: mean (spread) of ${seeds.length} seeds, the second and third year\n`)
  print(`| what | ${ways.join(' | ')} |\n| --- | ${ways.map(() => '---').join(' | ')} |`)
  for (const [label, of, digits] of FIGURES)
    print(
      `| ${label} | ${ways.map((way) => `${mean((all.get(way) ?? []).map(of)).toFixed(digits)} (${spread((all.get(way) ?? []).map(of)).toFixed(digits)})`).join(' | ')} |`,
    )
  return all
}

export async function run(): Promise<boolean> {
  const kept = new Kept(process.env.BENCH_KEEP ?? join(process.cwd(), '.build/bench-year'), `${SECONDS}.json`)
  const firmOf = (way: string, seed: number, systems: number, technicians: number): Measured =>
    kept.of(`${systems}/${seed}/${way}`, () => {
      const calendar = calendarOf(seed, technicians, 7 * WEEKS)
      const firm = drawFirm(seed, systems, technicians)
      return runFirm(firm, calendar, (WAYS[way] as Way)(firm, calendar), seed)
    })
  const seeds = Array.from({ length: SEEDS }, (_, index) => index + 1)
  const ways = Object.keys(WAYS).filter((way) => way.match(process.env.BENCH_WAYS ?? ''))
  const small = table('300 systems, two people', ways, seeds, (way, seed) => firmOf(way, seed, 300, 2))
  if (ways.length < Object.keys(WAYS).length) return true
  const figure = (way: string, of: (measured: Measured) => number): number => mean((small.get(way) ?? []).map(of))
  let good = true
  const goal = (what: string, measured: number, most: number): void => {
    const met = measured <= most
    good &&= met
    print(`| ${what} | ${measured.toFixed(2)} | ${most.toFixed(2)} | ${met ? 'met' : 'MISSED'} |`)
  }
  const record = (what: string, measured: number): void => print(`| ${what} | ${measured.toFixed(2)} | for the record | |`)
  const share = (of: (measured: Measured) => number, rival: string): number => figure('the year', of) / figure(rival, of)
  const variation = (measured: Measured): number => measured.variation
  const driving = ({ drivenH }: Measured): number => drivenH
  const past = ({ pastDays }: Measured): number => pastDays
  const parts = ({ parts: used }: Measured): number => used
  print('\n| goal | measured | at most | |\n| --- | --- | --- | --- |')
  goal('variation of weekly hours', figure('the year', variation), 0.12)
  goal('variation, of that by due dates one by one', share(variation, ONE_BY_ONE), 1 / 3)
  goal('driving, of that by due dates one by one', share(driving, ONE_BY_ONE), 0.75)
  goal('days past the end, of that by due dates one by one', share(past, ONE_BY_ONE), 0.4)
  goal('parts, of that by due dates one by one', share(parts, ONE_BY_ONE), 1.01)
  goal('variation, of that by quarter by quarter', share(variation, QUARTER), 0.5)
  goal('driving, of that by quarter by quarter', share(driving, QUARTER), 1)
  const moved = share(({ moved: visits }) => visits, QUARTER)
  goal('promised visits moved, of that by quarter by quarter', moved, 1)
  for (const rival of [BY_WEEK, PRINTED]) {
    record(`variation, of that by ${rival}`, share(variation, rival))
    record(`driving, of that by ${rival}`, share(driving, rival))
    record(`days past the end, of that by ${rival}`, share(past, rival))
    record(`parts, of that by ${rival}`, share(parts, rival))
  }
  if (process.env.BENCH_LARGE !== undefined)
    table('3,000 systems, twelve people', [BY_WEEK, 'the year'], [1], (way, seed) => firmOf(way, seed, 3000, 12))
  return good
}
