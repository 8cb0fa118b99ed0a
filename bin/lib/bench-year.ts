// What a plan of the year is worth: the same firm, people, wear and chance under five ways of planning, three simulated years each.
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

type Way = (firm: Firm, calendar: Calendar) => Planner
const WAYS: Record<string, Way> = {
  'every six months': byCalendar,
  'printed dates': byPrintedDates,
  'due dates one by one': (firm, calendar) => whenDue(firm, calendar),
  'quarter by quarter': (firm, calendar) => byQuarter(firm, calendar, SECONDS),
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
  const share = (of: (measured: Measured) => number, rival: string): number => figure('the year', of) / figure(rival, of)
  const [printed, due, quarter] = ['printed dates', 'due dates one by one', 'quarter by quarter']
  print('\n| goal | measured | at most | |\n| --- | --- | --- | --- |')
  goal(
    'variation of weekly hours',
    figure('the year', ({ variation }) => variation),
    0.12,
  )
  const against: [what: string, of: (measured: Measured) => number, rival: string, most: number][] = [printed, due].flatMap(
    (rival): [string, (measured: Measured) => number, string, number][] => [
      ['variation', ({ variation }) => variation, rival, 1 / 3],
      ['driving', ({ drivenH }) => drivenH, rival, 0.75],
      ['days past the end', ({ pastDays }) => pastDays, rival, 0.4],
      ['parts', ({ parts }) => parts, rival, 1.01],
    ],
  )
  against.push(
    ['variation', ({ variation }) => variation, quarter, 0.5],
    ['driving', ({ drivenH }) => drivenH, quarter, 1],
    ['promised visits moved', ({ moved }) => moved, quarter, 1],
  )
  for (const [what, of, rival, most] of against) goal(`${what}, of that by ${rival}`, share(of, rival), most)
  if (process.env.BENCH_LARGE !== undefined)
    table('3,000 systems, twelve people', [due, 'the year'], [1], (way, seed) => firmOf(way, seed, 3000, 12))
  return good
}
