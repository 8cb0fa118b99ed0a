/** A seeded stream of chance. Same seed, same stream, on every machine. */
export interface Rng {
  /** Uniform in [0, 1). */
  uniform(): number
  /** Uniform in [low, high). */
  between(low: number, high: number): number
  /** Standard normal. */
  normal(): number
  /** Log-normal of median 1 and this coefficient of variation. */
  spread(cv: number): number
  /** True with this chance. */
  chance(p: number): boolean
  /** One of a list, by weight when weights are given. */
  pick<T>(list: readonly T[], weights?: readonly number[]): T
  /** A stream of its own, that does not disturb this one. */
  fork(): Rng
}

/** sfc32, a small generator that passes the common batteries. Source: C. Doty-Humphrey, PractRand. */
function sfc32(seed: number): () => number {
  let a = 0x9e3779b9 ^ seed
  let b = 0x243f6a88
  let c = 0xb7e15162 ^ (seed * 7919)
  let counter = 1
  const next = (): number => {
    const sum = (((a + b) | 0) + counter) | 0
    counter = (counter + 1) | 0
    a = b ^ (b >>> 9)
    b = (c + (c << 3)) | 0
    c = ((c << 21) | (c >>> 11)) + sum
    c |= 0
    return (sum >>> 0) / 4_294_967_296
  }
  for (let i = 0; i < 15; i++) next()
  return next
}

/** `seed` is any integer. */
export function seeded(seed: number): Rng {
  const uniform = sfc32(seed | 0)
  const normal = (): number => Math.sqrt(-2 * Math.log(1 - uniform())) * Math.cos(2 * Math.PI * uniform())
  const pick = <T>(list: readonly T[], weights?: readonly number[]): T => {
    if (weights === undefined) return list[Math.floor(uniform() * list.length)] as T
    let left = uniform() * weights.reduce((sum, weight) => sum + weight, 0)
    for (let i = 0; i < list.length - 1; i++) {
      left -= weights[i] as number
      if (left < 0) return list[i] as T
    }
    return list[list.length - 1] as T
  }
  return {
    uniform,
    between: (low, high) => low + (high - low) * uniform(),
    normal,
    spread: (cv) => Math.exp(normal() * Math.sqrt(Math.log1p(cv * cv))),
    chance: (p) => uniform() < p,
    pick,
    fork: () => seeded(Math.floor(uniform() * 4_294_967_296)),
  }
}
