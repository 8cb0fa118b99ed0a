import { upperTail } from './normal'
import { PRIORS } from './priors'

/**
 * One measured quantity that grows (or falls) about exponentially with its exposure, and the crossing of its limit.
 *
 * The logarithm runs on a line: y = a·(1 + κu) + ρu with u = ((τ − start)/(T − start))^bend, so that y reaches the limit at τ = T.
 * κ = 0, ρ = ln ratio: the limit is a multiple of the start. κ = −1, ρ = ln limit: the limit is a value of its own.
 * The bend is near 1: growth that is not quite exponential is believed too.
 */
export interface Channel {
  /** Readings within the limit (or hardly past it), the wild ones left out: they tell where the line runs. */
  line: readonly Observation[]
  /** Readings clearly past it: they tell that the crossing was before. */
  over: readonly Over[]
  kappa: number
  rho: number
  start: number
  /** Normal prior on the logarithm at the start; null when nothing is known of it. */
  prior: { mean: number; sd: number } | null
  /** What usually lies between the start and the limit, on the log scale. */
  gap: number
  /** Places in the input of readings that are held for slips. */
  doubted: readonly number[]
  /** Day after fitting of the last reading that is not doubted, where it lies past the limit; null where it does not. */
  lastOver: number | null
}

export interface Observation {
  /** Exposure at the reading. */
  tau: number
  /** Days after fitting. */
  day: number
  /** Natural logarithm of what was read. */
  y: number
  /** Its standard deviation. */
  sd: number
  /** Its place in the input. */
  index: number
}

export interface Over {
  tau: number
  sd: number
  /** How far past the limit, on the log scale; over 0. */
  excess: number
  /** For the first of them: where the growth was last known to be within the limit, and how far within. */
  from: { tau: number; gap: number } | null
}

interface Sums {
  w: number
  wt: number
  wtt: number
  wy: number
  wyt: number
  wyy: number
  /** Σ ln of each reading's normal density at its peak. */
  peak: number
}

const HALF_LOG_TWO_PI = 0.5 * Math.log(2 * Math.PI)

/** Growth as the model has it, and how far from it a world may be: exponents of the exposure, and their chances. */
const BENDS = [
  { power: 1, logShare: Math.log(0.4) },
  { power: 1.6, logShare: Math.log(0.3) },
  { power: 0.6, logShare: Math.log(0.3) },
] as const

function sumsOf(observations: readonly Observation[], start: number, power: number, scale: number): Sums {
  const sums: Sums = { w: 0, wt: 0, wtt: 0, wy: 0, wyt: 0, wyy: 0, peak: 0 }
  for (const { tau, y, sd } of observations) {
    const own = sd * scale
    const w = 1 / (own * own)
    const t = power === 1 ? tau - start : (tau - start) ** power
    sums.w += w
    sums.wt += w * t
    sums.wtt += w * t * t
    sums.wy += w * y
    sums.wyt += w * y * t
    sums.wyy += w * y * y
    sums.peak -= Math.log(own) + HALF_LOG_TWO_PI
  }
  return sums
}

/** The best free line through the sums; flat where all readings stand at one exposure. */
function line({ w, wt, wtt, wy, wyt }: Sums): { level: number; slope: number } {
  const determinant = w * wtt - wt * wt
  if (determinant <= 1e-9 * w * wtt) return { level: wy / w, slope: 0 }
  const slope = (w * wyt - wt * wy) / determinant
  return { level: (wy - slope * wt) / w, slope }
}

/** Weighted sum of squares about it. */
function lineMisfit(sums: Sums): number {
  const { level, slope } = line(sums)
  return Math.max(0, sums.wyy - level * sums.wy - slope * sums.wyt)
}

/** Scatter about the line over what is usual, by the middle residual, which one wild reading does not move; never under 1. */
function roughScale(observations: readonly Observation[], start: number): number {
  const { level, slope } = line(sumsOf(observations, start, 1, 1))
  const residuals = observations.map(({ tau, y, sd }) => Math.abs(y - level - slope * (tau - start)) / sd).sort((a, b) => a - b)
  return Math.max(1, 1.4826 * (residuals[residuals.length >> 1] as number))
}

/** How much more than usual a gauge scatters about its line; 1 while there are too few readings to tell. */
export const scatterOf = (observations: readonly Observation[], start: number): number =>
  observations.length < 4 ? 1 : roughScale(observations, start)

/** One reading leaves when the line without it fits this much better: about 3.5 standard deviations. */
const WILD_MISFIT = 12

/** Drops wild readings one at a time, the worst first, while at least three stay on a line. */
export function withoutWild(observations: readonly Observation[], start: number): readonly Observation[] {
  let kept = observations
  while (kept.length > 3) {
    const all = lineMisfit(sumsOf(kept, start, 1, 1))
    if (all < WILD_MISFIT) return kept
    const bound = WILD_MISFIT * roughScale(kept, start) ** 2
    let best = all
    let worst = -1
    for (let i = 0; i < kept.length; i++) {
      const misfit = lineMisfit(
        sumsOf(
          kept.filter((_, index) => index !== i),
          start,
          1,
          1,
        ),
      )
      if (misfit < best) {
        best = misfit
        worst = i
      }
    }
    if (worst < 0 || all - best < bound) return kept
    kept = kept.filter((_, index) => index !== worst)
  }
  return kept
}

/** How many readings' worth the usual scatter of an instrument counts for against a site's own. */
const USUAL_SCATTER_WORTH = 4

/** How much more than usual this gauge scatters here, learned from its readings about their own (bent or straight) line. */
function noiseScale(observations: readonly Observation[], start: number): number {
  const free = observations.length - 2
  if (free <= 0) return 1
  const misfit = Math.min(...BENDS.map(({ power }) => lineMisfit(sumsOf(observations, start, power, 1))))
  return Math.sqrt(Math.max(1, (USUAL_SCATTER_WORTH + misfit) / (USUAL_SCATTER_WORTH + free)))
}

/** ln of the chance of the readings when the limit is crossed at exposure `reach` (to the power of the bend) after the start. */
function logChance(sums: Sums, { kappa, rho, prior }: Channel, reach: number): number {
  const v = 1 / reach
  const kv = kappa * v
  const rv = rho * v
  let aa = sums.w + 2 * kv * sums.wt + kv * kv * sums.wtt
  let ar = sums.wy - rv * sums.wt + kv * sums.wyt - kv * rv * sums.wtt
  let rr = sums.wyy - 2 * rv * sums.wyt + rv * rv * sums.wtt
  let peak = sums.peak
  if (prior !== null) {
    const p = 1 / (prior.sd * prior.sd)
    aa += p
    ar += p * prior.mean
    rr += p * prior.mean * prior.mean
    peak -= Math.log(prior.sd)
  } else peak += HALF_LOG_TWO_PI
  return peak - 0.5 * (rr - (ar * ar) / aa) - 0.5 * Math.log(aa)
}

/** With this many readings or fewer no line can tell which one is wild: each in turn is given its small chance. */
const FEW = 3
const LOG_WILD = Math.log((PRIORS.wildShare / (1 - PRIORS.wildShare)) * PRIORS.wildDensity)

/** The readings as they stand under every bend and, where they are few, without each of them in turn; with ln of their share. */
function hypotheses(kept: readonly Observation[], { start, prior }: Channel, scale: number): { sums: Sums; power: number; log: number }[] {
  const few = kept.length <= FEW && !(kept.length === 1 && prior === null)
  const all: { sums: Sums; power: number; log: number }[] = []
  for (let left = 0; few && left < kept.length; left++) {
    const rest = kept.filter((_, index) => index !== left)
    all.push({ sums: sumsOf(rest, start, 1, scale), power: 1, log: LOG_WILD })
  }
  for (const { power, logShare } of BENDS) all.push({ sums: sumsOf(kept, start, power, scale), power, log: logShare })
  return all
}

/** Less likely than this share of the likeliest explanation, one adds nothing. */
const NOTHING = -18

/** ln-likelihood of the points of the line when the limit is crossed `after` the start, over all the explanations. */
function lineChance(channel: Channel, given: ReturnType<typeof hypotheses>, own: Float64Array, after: number): number {
  if (after <= 0) return Number.NEGATIVE_INFINITY
  let power = 0
  let reach = 0
  let most = Number.NEGATIVE_INFINITY
  for (let h = 0; h < given.length; h++) {
    const one = given[h] as (typeof given)[number]
    if (one.power !== power) {
      power = one.power
      reach = power === 1 ? after : after ** power
    }
    const log = one.log + logChance(one.sums, channel, reach)
    own[h] = log
    if (log > most) most = log
  }
  let sum = 0
  for (let h = 0; h < own.length; h++) {
    const less = (own[h] as number) - most
    if (less > NOTHING) sum += less === 0 ? 1 : Math.exp(less)
  }
  return sum === 1 ? most : most + Math.log(sum)
}

/** Every so many crossings are asked first. */
const COARSE = 4
/** Weights of four neighbouring ones (Lagrange's cubic) at the crossings between the middle two. */
const CUBIC = [1, 2, 3].map((k) => {
  const t = k / COARSE
  return [
    (-t * (t - 1) * (t - 2)) / 6,
    ((t + 1) * (t - 1) * (t - 2)) / 2,
    (-(t + 1) * t * (t - 2)) / 2,
    ((t + 1) * t * (t - 1)) / 6,
  ] as const
})
/** Where the fourth differences about a cell stay under this, the cubic is less than a hundredth off. */
const SMOOTH = 0.3

/** ln-likelihood of the points of the line at each of `crossings` (exposure units); −Infinity at or before the start. */
function lineLikelihood(channel: Channel, crossings: Float64Array): Float64Array {
  const out = new Float64Array(crossings.length)
  const { line: kept, start } = channel
  if (kept.length === 0) return out
  const given = hypotheses(kept, channel, noiseScale(kept, start))
  const own = new Float64Array(given.length)
  const last = crossings.length - 1
  let most = Number.NEGATIVE_INFINITY
  for (let k = 0; k <= last; k += COARSE) {
    const log = lineChance(channel, given, own, (crossings[k] as number) - start)
    out[k] = log
    if (log > most) most = log
  }
  for (let from = 0; from < last; from += COARSE) {
    const to = Math.min(from + COARSE, last + 1)
    const [b, c] = [out[from] as number, to <= last ? (out[to] as number) : Number.NEGATIVE_INFINITY]
    // Between two that are both next to impossible none is asked.
    if (to <= last && Math.max(b, c) < most + NOTHING) out.fill(Math.max(b, c), from + 1, to)
    else if (!fillSmooth(out, from))
      for (let k = from + 1; k < to; k++) out[k] = lineChance(channel, given, own, (crossings[k] as number) - start)
  }
  return out
}

/** Fills in what lies between `from` and the next coarse crossing where the curve is smooth there; false where it is not, or ends. */
function fillSmooth(out: Float64Array, from: number): boolean {
  if (from < 2 * COARSE || from + 3 * COARSE >= out.length) return false
  const coarse = (i: number): number => out[from + i * COARSE] as number
  const [a, b, c, d] = [coarse(-1), coarse(0), coarse(1), coarse(2)]
  const third = d - a - 3 * (c - b)
  // Not a number where one of them is −Infinity.
  if (!(Math.abs(third - (c - coarse(-2) - 3 * (b - a))) < SMOOTH && Math.abs(coarse(3) - b - 3 * (d - c) - third) < SMOOTH)) return false
  for (let k = 1; k < COARSE; k++) {
    const [wa, wb, wc, wd] = CUBIC[k - 1] as (typeof CUBIC)[number]
    out[from + k] = wa * a + wb * b + wc * c + wd * d
  }
  return true
}

/** Beyond so many standard deviations past its limit a reading says no more. */
const SURELY = 8
/** A reading hardly past its limit may as well be the scatter of the gauge: so much less than a certainty of one half it counts. */
const HARDLY = 0.8
/** Between the last reading within and the first one past it the crossing is known to about a fifth of the time between them. */
const SPREAD = 0.2
/** A course that is known more finely than the grid of crossings would fall between its points. */
const LEAST_SPREAD = 0.08
/** A reading far past its limit may have got there at once, so that it places the crossing no earlier than the middle. */
const EARLIEST_SHARE = 0.5

/**
 * ln-likelihood that a reading past the limit leaves to a crossing: the limit was reached by then, the surer the further past it lies, and
 * (for the first one) about where the way from the last reading within crosses it. Both depend on the crossing alone, in a form that a
 * worse reading only moves earlier, so that no quantile ever grows with it (monotone likelihood ratio).
 */
function overLikelihood({ tau, sd, excess, from }: Over, { start, gap }: Channel, crossing: number): number {
  const strength = -Math.log2(upperTail(Math.min(SURELY, excess / sd))) - HARDLY
  const after = crossing - start
  const z = after <= 0 ? Number.POSITIVE_INFINITY : ((Math.max(tau - start, 1) / after - 1) * gap) / sd
  const reached = strength * Math.log(Math.max(upperTail(-z), 1e-300))
  if (from === null) return reached
  const way = Math.max(tau - from.tau, 1)
  const likeliest = tau - way * Math.min(EARLIEST_SHARE, excess / (excess + from.gap))
  const off = (crossing - likeliest) / Math.max(SPREAD * way, LEAST_SPREAD * tau)
  return reached - (off > 0 ? 0.5 * off * off : -off)
}

/** Share of the likeliest line's chance that any later crossing keeps, once a reading lies past the limit: it may have gone at once. */
const AT_ONCE = 0.05

/**
 * What the readings of a cause say of its crossing, as ln-likelihoods at `crossings` (exposure units, rising): a line through what lies
 * within the limit, and what lies past it.
 */
export function growthLikelihood(channels: readonly Channel[], crossings: Float64Array): Float64Array {
  const out = new Float64Array(crossings.length)
  for (const channel of channels) {
    const own = lineLikelihood(channel, crossings)
    if (channel.over.length > 0) keepAtOnce(channel, crossings, own)
    for (let k = 0; k < own.length; k++) {
      let sum = (out[k] as number) + (own[k] as number)
      for (const one of channel.over) sum += overLikelihood(one, channel, crossings[k] as number)
      out[k] = sum
    }
  }
  return out
}

const addLogs = (a: number, b: number): number => (a > b ? a + Math.log1p(Math.exp(b - a)) : b + Math.log1p(Math.exp(a - b)))

/** Adds to each crossing after the last reading within the limit the chance that it came at once (torn, cracked, burnt out). */
function keepAtOnce({ line }: Channel, crossings: Float64Array, own: Float64Array): void {
  const lastWithin = line.reduce((last, { tau }) => Math.max(last, tau), 0)
  let likeliest = Number.NEGATIVE_INFINITY
  for (let k = 0; k < own.length; k++)
    if ((crossings[k] as number) > lastWithin && (own[k] as number) > likeliest) likeliest = own[k] as number
  if (likeliest === Number.NEGATIVE_INFINITY) likeliest = 0
  for (let k = 0; k < own.length; k++)
    if ((crossings[k] as number) > lastWithin) own[k] = addLogs(own[k] as number, likeliest + Math.log(AT_ONCE))
}
