import type { Schools } from '@evenround/contract/firm'
import type { HistoryDto, StopDto } from '@evenround/contract/site'
import {
  type Fitness,
  fitness,
  type MembraneJudged,
  membraneBy,
  type PairDoubt,
  pairDoubt,
  type ResinResult,
  type TdsResult,
  tds,
  USUAL_MEMBRANE,
  type Water,
} from '@evenround/core/readings'
import { daysBetween, METRIC, median, parseQuantity, type ShownUnits, unitOf } from '@evenround/core/units'
import { usualResin } from '@evenround/core/wear'
import { numberText, say } from '@evenround/core/words'

export type { Water }
/** Treated first: the probe carries what it was in before. */
export const WATERS: readonly Water[] = ['treated', 'untreated']

/** How this technician's meter works; kept on the device. */
export interface Meter {
  quantity: 'tds' | 'ec'
  scale: 0.5 | 0.64 | 0.7
  compensated: boolean
}
export const USUAL_METER: Meter = { quantity: 'tds', scale: 0.5, compensated: true }

/** What was typed for one water. */
export interface Typed {
  text: string
  timesTen: boolean
  settled: boolean
  /** The doubtful value the person looked at and kept; another value is asked about again. */
  kept: string | null
}
export const NOTHING_TYPED: Typed = { text: '', timesTen: false, settled: false, kept: null }

export interface Draft {
  untreated: Typed
  treated: Typed
  temperature: string
  /** Which water was dipped first: the probe carries it into the other. */
  first?: Water
}
export const EMPTY_DRAFT: Draft = { untreated: NOTHING_TYPED, treated: NOTHING_TYPED, temperature: '' }

export interface JudgedReading {
  /** The display as a number in the meter's own unit; null while empty or not a number. */
  display: number | null
  result: TdsResult | null
  error: string | null
  /** A question that wants an answer before going on; null when there is none or it was answered. */
  doubt: { text: string; offerTimesTen: boolean } | null
}

const most = (quantity: Meter['quantity']): number => (quantity === 'ec' ? 200_000 : 100_000)

function judgeOne(typed: Typed, meter: Meter, temperatureC: number | null, history: readonly number[], decimal: '.' | ','): JudgedReading {
  if (typed.text.trim() === '') return { display: null, result: null, error: null, doubt: null }
  const parsed = parseQuantity(typed.text, { dimension: 'concentration', unit: meter.quantity === 'ec' ? 'us/cm' : 'mg/l', decimal })
  if (!parsed.ok)
    return {
      display: null,
      result: null,
      doubt: null,
      error:
        parsed.reason === 'unknown-unit'
          ? say`Type the number only, or one of: ${parsed.expected.join(', ')}`
          : say`Not a number. Type e.g. 412 or 1.2k`,
    }
  if (parsed.value < 0) return { display: null, result: null, doubt: null, error: say`A meter shows no less than 0` }
  if (parsed.value > most(meter.quantity))
    return {
      display: null,
      result: null,
      doubt: null,
      error: say`More than any meter shows: at most ${numberText(most(meter.quantity))}`,
    }
  const result = tds({ display: parsed.value, multiplier: typed.timesTen ? 10 : 1, ...meter, temperatureC, siteHistoryMgL: history })
  return { display: parsed.value, result, error: null, doubt: doubtOf(typed, result, history) }
}

function doubtOf(typed: Typed, { tdsMgL, flags }: TdsResult, history: readonly number[]): JudgedReading['doubt'] {
  if (!flags.includes('tenfold?') || typed.kept === keptKey(typed)) return null
  const usual = median(history)
  const text = say`Usually here it is about ${Math.round(usual)}. ${tdsMgL < usual ? say`Is the small ×10 mark on the display? Look, or dip once more.` : say`Rinse the probe and dip once more.`}`
  return { text, offerTimesTen: tdsMgL < usual && !typed.timesTen }
}

/** What a kept doubt is kept for: this very number with this very mark. */
export const keptKey = (typed: Typed): string => `${typed.text.trim()}/${typed.timesTen ? 10 : 1}`

export interface Judgement {
  untreated: JudgedReading
  treated: JudgedReading
  temperature: { value: number | null; error: string | null }
  membrane: {
    result: MembraneJudged['result']
    inForce: string
    other: string | null
    limits: MembraneJudged['limits']
  } | null
  resin: { result: ResinResult; estimated: boolean } | null
  /** What the treated water is fit for; null while one of the two is missing. */
  fit: Fitness | null
}

function judgeTemperature(text: string, decimal: '.' | ',', units: ShownUnits): Judgement['temperature'] {
  if (text.trim() === '') return { value: null, error: null }
  const parsed = parseQuantity(text, { dimension: 'temperature', unit: unitOf('temperature', units).parse, decimal })
  if (!parsed.ok) return { value: null, error: say`Not a temperature. Type e.g. 11` }
  if (parsed.value < -2 || parsed.value > 100)
    return { value: null, error: units.temperature === 'F' ? say`Water is between 28 and 212 °F` : say`Water is between −2 and 100 °C` }
  return { value: parsed.value, error: null }
}

function judgeMembrane(
  feedTdsMgL: number,
  productTdsMgL: number,
  school: Schools['membrane'],
  baseline: number | null,
): NonNullable<Judgement['membrane']> {
  const { result, by, limits, ofBaseline } = membraneBy(school, baseline, { feedTdsMgL, productTdsMgL })
  const own = by === 'own-baseline'
  const noBaseline = school === by ? '' : say` (own baseline is the method, but its first readings are not known)`
  const inForce = say`Method: ${own ? say`its own baseline` : say`fixed floor`}, for this firm${noBaseline}.`
  const other =
    own || ofBaseline === null
      ? null
      : say`By its own baseline it would be at ${Math.round(ofBaseline * 10) / 10} of ${USUAL_MEMBRANE.replaceRatio.toFixed(1)}.`
  return { result, inForce, other, limits }
}

function judgeResin(inTdsMgL: number, outTdsMgL: number, stop: Measured, today: string): Judgement['resin'] {
  const part = stop.system.stages.find(({ media }) => media === 'deionising-resin')?.part
  const milliequivalents = part?.rated.milliequivalents
  if (!part || !milliequivalents || inTdsMgL <= 0) return null
  const { fittedOn } = part
  return { result: usualResin({ inTdsMgL, outTdsMgL, milliequivalents, fittedOn, today, site: stop.site }), estimated: true }
}

/** What a reading is judged by: the system it was taken at, and its site. */
export type Measured = Pick<StopDto, 'system' | 'site'>

/** Everything the measuring screen says, from what was typed: no renderer, no clock. */
export function judge(
  draft: Draft,
  meter: Meter,
  stop: Measured,
  history: HistoryDto,
  schools: Schools,
  today: string,
  decimal: '.' | ',',
  units: ShownUnits = METRIC,
): Judgement {
  const temperature = judgeTemperature(draft.temperature, decimal, units)
  const untreated = judgeOne(draft.untreated, meter, temperature.value, history.untreatedMgL, decimal)
  const treated = judgeOne(draft.treated, meter, temperature.value, history.treatedMgL, decimal)
  const feed = untreated.result?.tdsMgL
  const product = treated.result?.tdsMgL
  if (feed === undefined || product === undefined) return { untreated, treated, temperature, membrane: null, resin: null, fit: null }
  const { stages } = stop.system
  const media = stages.map((stage) => stage.media)
  const hasMembrane = media.includes('membrane')
  const membraneSince = stages.find((stage) => stage.media === 'membrane')?.part
  const doubt = pairDoubt({
    untreatedMgL: feed,
    treatedMgL: product,
    treats: { membrane: hasMembrane, resin: media.includes('deionising-resin'), minerals: media.includes('remineraliser') },
    source: stop.site.source,
    membraneDays: membraneSince?.dateKnown ? daysBetween(membraneSince.fittedOn, today) : null,
    history: history.untreatedMgL.length,
  })
  const fit = fitness({
    untreatedMgL: feed,
    treatedMgL: product,
    municipal: stop.site.source === 'municipal',
    hasMembrane,
    hasLamp: media.includes('uv-lamp'),
  })
  return {
    ...askedAbout({ untreated, treated }, draft, doubt),
    temperature,
    fit,
    membrane: hasMembrane ? judgeMembrane(feed, product, schools.membrane, history.baselinePassage) : null,
    resin: judgeResin(feed, product, stop, today),
  }
}

/** The pair with a question at the value that cannot be what this set does, where the person has not answered it or another one stands there. */
function askedAbout(pair: Record<Water, JudgedReading>, draft: Draft, doubt: PairDoubt | null): Record<Water, JudgedReading> {
  if (doubt === null) return pair
  const { water, why, timesTen } = doubt
  const typed = draft[water]
  if (pair[water].doubt || typed.kept === keptKey(typed)) return pair
  const offerTimesTen = timesTen && !typed.timesTen
  const text = `${PAIR_WORDS[why]} ${offerTimesTen ? say`Is the small ×10 mark on the display?` : say`Are the two swapped, or was the probe not rinsed? Dip once more.`}`
  return { ...pair, [water]: { ...pair[water], doubt: { text, offerTimesTen } } }
}

const PAIR_WORDS: Record<PairDoubt['why'], string> = {
  'outside-source': say`Water of this source hardly ever has so much or so little in it.`,
  adds: say`Nothing in this set puts so much into the water.`,
  'takes-out-too-much': say`Nothing in this set takes out dissolved solids: both should read nearly alike.`,
  'new-membrane-passes': say`A new membrane lets far less through: check the reading, then its seat and seals.`,
}

/** Above this the water left in a probe lifts a clean reading enough to mislead, mg/L. */
const CARRIES_FROM_MG_L = 50

/** What to do about the last sample in the probe before this water is dipped; null when nothing is carried that matters. */
export function carryOverHint(water: Water, draft: Draft, judgement: Pick<Judgement, Water>): string | null {
  if (water !== 'treated' || draft.first !== 'untreated') return null
  const carried = judgement.untreated.result?.tdsMgL
  if (carried === undefined || carried < CARRIES_FROM_MG_L) return null
  return say`The probe carries ${Math.round(carried)} over: rinse it in this water, then dip. Next time treated first.`
}

/** A draft with one water's entry changed; the first one dipped is remembered. */
export function typedInto(draft: Draft, water: Water, typed: Typed): Draft {
  const other: Water = water === 'untreated' ? 'treated' : 'untreated'
  const first = draft[other].text.trim() === '' && typed.text.trim() !== '' ? water : draft.first
  return { ...draft, [water]: typed, ...(first === undefined ? {} : { first }) }
}

/** What still stands between these readings and the run sheet; null when nothing does. */
export function blocker({ untreated, treated, temperature }: Judgement): string | null {
  if (untreated.error || treated.error || temperature.error) return say`A number cannot be read: it is marked above.`
  if (untreated.display === null || treated.display === null) return say`Enter both readings: untreated and treated.`
  if (untreated.doubt || treated.doubt) return say`Answer the question about the reading first.`
  return null
}
