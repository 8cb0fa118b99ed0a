import { FACT_KINDS, type FactKind } from '@evenround/core/visit'
import { say } from '@evenround/core/words'

/** Ticks and timers of run sheets: thousands of lines that say nothing the visit's end does not say; they stand in the data. */
const TOO_MANY = ['step-done', 'block-done', 'timer-started'] as const
type Told = Exclude<FactKind, (typeof TOO_MANY)[number]>
/** The kinds of facts that a site's past tells of. */
export const TOLD_KINDS = (Object.keys(FACT_KINDS) as FactKind[]).filter(
  (kind): kind is Told => !(TOO_MANY as readonly string[]).includes(kind),
)

/** A fact as its table has it. */
export type Row = Record<string, unknown>

const GAUGES: readonly (readonly [field: string, name: () => string, unit: string])[] = [
  ['counter_l', () => say`counter`, 'L'],
  ['in_kpa', () => say`pressure before it`, 'kPa'],
  ['out_kpa', () => say`pressure after it`, 'kPa'],
  ['flow_l_min', () => say`flow`, 'L/min'],
  ['chlorine_after_mg_l', () => say`free chlorine after it`, 'mg/L'],
  ['lamp_hours', () => say`lamp`, 'h'],
  ['intensity_percent', () => say`intensity`, '%'],
  ['product_l_min', () => say`permeate`, 'L/min'],
  ['hardness_in_mg_l', () => say`hardness before it`, 'mg/L'],
  ['hardness_out_mg_l', () => say`hardness after it`, 'mg/L'],
  ['salt_kg', () => say`salt filled in`, 'kg'],
]
const JOB_DAYS: Record<string, () => string> = {
  dose: () => say`Day of the dose`,
  flush: () => say`Day of the flush`,
  sample: () => say`Day of the sample`,
  job: () => say`Disinfection`,
}
const PURPOSES: Record<string, () => string> = {
  jug: () => say`of the jug`,
  arrival: () => say`as it arrives`,
  contact: () => say`while it stands`,
  flush: () => say`while it is flushed`,
  sample: () => say`before the sample`,
}
/** What a fact says by one of a few values. */
const VALUES: Record<string, () => string> = {
  before: () => say`before the work`,
  after: () => say`after the work`,
  untreated: () => say`untreated`,
  treated: () => say`treated`,
  'as-new': () => say`as new`,
  light: () => say`lightly used`,
  'as-expected': () => say`as expected`,
  heavy: () => say`heavily used`,
  spent: () => say`spent`,
  telephone: () => say`by telephone`,
  'in-person': () => say`in person`,
  message: () => say`by message`,
  done: () => say`done`,
  'partly-done': () => say`partly done`,
  'not-right': () => say`not right yet`,
  'nobody-home': () => say`nobody home`,
  'part-missing': () => say`part missing`,
  stopped: () => say`stopped`,
  declined: () => say`declined by the customer`,
  'weeping-valve': () => say`weeping valve`,
  'cracked-body': () => say`cracked body`,
  'missing-bypass': () => say`missing bypass`,
  'missing-shut-off': () => say`missing shut-off`,
  corroded: () => say`corroded`,
  other: () => say`something else`,
  'will-not-close': () => say`a shut-off will not close`,
  'keeps-running': () => say`water kept running`,
  'no-tank-valve': () => say`the tank has no valve`,
  'old-gasket': () => say`an old gasket was left inside`,
  'thread-damaged': () => say`a thread is damaged`,
  'still-leaking': () => say`it still leaks`,
  change: () => say`change`,
  wash: () => say`wash`,
  refill: () => say`refill`,
  clean: () => say`clean`,
  access: () => say`access`,
  contact: () => say`contact`,
  phone: () => say`telephone`,
  absent: () => say`absent`,
  present: () => say`present`,
  entry: () => say`entry`,
  jug: () => say`the jug`,
}
const words = (value: unknown): string => VALUES[String(value)]?.() ?? String(value).replaceAll('-', ' ')
const bracketed = (value: unknown): string => (value ? ` (${value})` : '')
const note = (value: unknown): string => (value ? ` ${value}` : '')

/** Each kind as a person would say it. */
const LINES: Record<Told, (row: Row) => string> = {
  'visit-begun': () => say`Visit begun`,
  'tds-reading': (row) => say`TDS ${words(row.phase)}, ${words(row.water)}: ${Number(row.tds_mg_l)} mg/L`,
  'stage-reading': (row) =>
    say`Reading ${words(row.phase)}: ${GAUGES.flatMap(([field, name, unit]) => (row[field] == null ? [] : [`${name()} ${row[field]} ${unit}`])).join(', ')}`,
  'part-removed': (row) => say`Part taken out, ${words(row.found)}${row.dirt_past ? say`, dirt had got past it` : ''}`,
  'part-fitted': (row) =>
    say`Part fitted at ${Number(row.position)}: ${String(row.part_number)}${row.date_known ? '' : say`, first seen; nobody knows since when`}${bracketed(row.mark_text)}`,
  'hold-begun': (row) => say`Hold: ${String(row.text)}`,
  'hold-lifted': (row) => say`Hold lifted: ${String(row.proof)}`,
  'hold-told': (row) =>
    row.how === 'nobody-reached'
      ? say`Of the hold: nobody reached, ${String(row.whom)}`
      : say`Told of the hold, ${words(row.how)}: ${String(row.whom)}`,
  'visit-finished': (row) =>
    say`Visit ended, ${words(row.outcome)}.${row.customer_told ? say` The customer was told.` : ''}${note(row.note)}`,
  'fault-noted': (row) => say`Fault, ${words(row.what)}.${note(row.text)}`,
  'fault-settled': (row) => say`Fault settled, ${words(row.how)}.${note(row.note)}`,
  'chlorine-dosed': (row) => say`Chlorine dosed: ${Number(row.amount)} ${String(row.unit)}`,
  'step-surprise': (row) => say`Found otherwise: ${words(row.surprise)}`,
  'work-changed': (row) =>
    row.action === null ? say`Left for another day.${note(row.why)}` : say`Taken in on the day: ${words(row.action)}`,
  'site-mended': (row) => say`The site’s page mended, ${words(row.field)}: ${String(row.value)}`,
  'job-planned': () => say`Disinfection planned`,
  'sample-taken': (row) =>
    say`Sample taken at ${String(row.place)}, bottle ${String(row.bottle)}, for ${String(row.laboratory)}; free chlorine ${Number(row.chlorine_mg_l)} mg/L`,
  'job-day-ended': (row) =>
    say`${JOB_DAYS[String(row.job_day ?? row.day)]?.() ?? say`Day of the disinfection`} ended, ${words(row.outcome)}.${note(row.note)}`,
  'strip-read': (row) =>
    say`Strip at ${words(row.place)}, ${PURPOSES[String(row.purpose)]?.() ?? String(row.purpose)}: ${row.mg_l === null ? say`by smell` : say`${Number(row.mg_l)} mg/L free chlorine`}`,
  'sample-result': (row) =>
    say`Laboratory’s report ${String(row.report_number)} of ${String(row.day)}: total coliforms ${words(row.total_coliform)}, E. coli ${words(row.e_coli)}`,
}

/** A fact as a line of its site's past, in the language of whoever asks. */
export function factLine(kind: Told, row: Row): string {
  const back = row.voided === true ? say` [taken back]` : row.supersedes !== null ? say` [corrected]` : ''
  const by = kind === 'visit-begun' && row.person ? say`, by ${String(row.person)}` : ''
  return `${LINES[kind](row)}${by}${back}`
}
