import { PRIORS } from './priors'

/**
 * One measured quantity that grows (or falls) about exponentially with its exposure, and the crossing of its limit.
 *
 * The logarithm runs on a line: y = a·(1 + κu) + ρu with u = (τ − start)/(T − start), so that y reaches the limit at τ = T.
 * κ = 0, ρ = ln ratio: the limit is a multiple of the start. κ = −1, ρ = ln limit: the limit is a value of its own.
 */
export interface Channel {
  observations: readonly Observation[]
  kappa: number
  rho: number
  start: number
  /** Normal prior on the logarithm at the start; null when nothing is known of it. */
  prior: { mean: number; sd: number } | null
}

export interface Observation {
  /** Exposure at the reading. */
  tau: number
  /** Natural logarithm of what was read. */
  y: number
  /** Its standard deviation. */
  sd: number
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

function sumsOf(observations: readonly Observation[], start: number): Sums {
  const sums: Sums = { w: 0, wt: 0, wtt: 0, wy: 0, wyt: 0, wyy: 0, peak: 0 }
  for (const { tau, y, sd } of observations) {
    const w = 1 / (sd * sd)
    const t = tau - start
    sums.w += w
    sums.wt += w * t
    sums.wtt += w * t * t
    sums.wy += w * y
    sums.wyt += w * y * t
    sums.wyy += w * y * y
    sums.peak -= Math.log(sd) + HALF_LOG_TWO_PI
  }
  return sums
}

/** Weighted sum of squares about the best free line. */
function lineMisfit({ w, wt, wtt, wy, wyt, wyy }: Sums): number {
  const determinant = w * wtt - wt * wt
  if (determinant <= 1e-9 * w * wtt) return Math.max(0, wyy - (wy * wy) / w)
  const slope = (w * wyt - wt * wy) / determinant
  const level = (wy - slope * wt) / w
  return Math.max(0, wyy - level * wy - slope * wyt)
}

/** One reading leaves when the line without it fits this much better: about 3.5 standard deviations. */
const WILD_MISFIT = 12

/** Drops wild readings one at a time, the worst first, while at least three stay on a line. */
function withoutWild(observations: readonly Observation[], start: number): readonly Observation[] {
  let kept = observations
  while (kept.length > 3) {
    const all = lineMisfit(sumsOf(kept, start))
    if (all < WILD_MISFIT) return kept
    let best = all
    let without = kept
    for (let i = 0; i < kept.length; i++) {
      const rest = kept.filter((_, index) => index !== i)
      const misfit = lineMisfit(sumsOf(rest, start))
      if (misfit < best) {
        best = misfit
        without = rest
      }
    }
    if (all - best < WILD_MISFIT) return kept
    kept = without
  }
  return kept
}

/** ln of the chance of the readings when the limit is crossed at `T`, the start level integrated out. */
function logChance(sums: Sums, { kappa, rho, start, prior }: Channel, T: number): number {
  const v = 1 / (T - start)
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

/**
 * Adds to `out` the ln-likelihood of the crossing at each of `crossings` (exposure units, rising), up to a constant.
 * A crossing at or before the start has none (−Infinity). Robust to wild readings: with four or more the line finds them,
 * with fewer each may be the wild one, at the prior's chance.
 */
export function addLogLikelihood(channel: Channel, crossings: Float64Array, out: Float64Array): void {
  const { start } = channel
  const kept = withoutWild(channel.observations, start)
  if (kept.length === 0) return
  const all = sumsOf(kept, start)
  const hypotheses = [{ sums: all, log: 0 }]
  if (kept.length <= FEW) {
    const log = Math.log((PRIORS.wildShare / (1 - PRIORS.wildShare)) * PRIORS.wildDensity)
    for (let i = 0; i < kept.length; i++) {
      hypotheses.push({
        sums: sumsOf(
          kept.filter((_, index) => index !== i),
          start,
        ),
        log,
      })
    }
  }
  for (let k = 0; k < crossings.length; k++) {
    const T = crossings[k] as number
    if (T <= start) {
      out[k] = Number.NEGATIVE_INFINITY
      continue
    }
    const plain = logChance(all, channel, T)
    if (hypotheses.length === 1) {
      out[k] = (out[k] as number) + plain
      continue
    }
    let sum = 1
    for (let h = 1; h < hypotheses.length; h++) {
      const one = hypotheses[h] as { sums: Sums; log: number }
      const chance = one.sums.w === 0 && channel.prior === null ? 0 : logChance(one.sums, channel, T)
      sum += Math.exp(Math.min(chance + one.log - plain, 600))
    }
    out[k] = (out[k] as number) + plain + Math.log(sum)
  }
}
