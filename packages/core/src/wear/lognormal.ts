/** Complementary error function, |relative error| < 1.2e-7 everywhere. Source: Numerical Recipes, erfcc (Chebyshev fit). */
function erfc(x: number): number {
  const z = Math.abs(x)
  const t = 1 / (1 + 0.5 * z)
  const poly =
    -1.26551223 +
    t *
      (1.00002368 +
        t *
          (0.37409196 +
            t *
              (0.09678418 +
                t * (-0.18628806 + t * (0.27886807 + t * (-1.13520398 + t * (1.48851587 + t * (-0.82215223 + t * 0.17087277))))))))
  const value = t * Math.exp(-z * z + poly)
  return x >= 0 ? value : 2 - value
}

/** Chance that a log-normal with this median and sigma exceeds `t`; 1 for t ≤ 0. Sigma 0 is a step at the median. */
export function survival(t: number, median: number, sigma: number): number {
  if (t <= 0) return 1
  if (sigma === 0) return t < median ? 1 : 0
  return 0.5 * erfc((Math.log(t) - Math.log(median)) / (sigma * Math.SQRT2))
}

/** Equal-weight midpoints of a standard normal cut into `n` equal-probability slices (n odd keeps 0). */
export function normalMidpoints(n: number): number[] {
  const points: number[] = []
  for (let i = 0; i < n; i++) points.push(quantile((i + 0.5) / n))
  return points
}

/** Standard normal quantile by bisection on `survival`'s own error function; p in (0, 1), to 1e-10. */
function quantile(p: number): number {
  let low = -9
  let high = 9
  while (high - low > 1e-10) {
    const middle = (low + high) / 2
    if (1 - 0.5 * erfc(middle / Math.SQRT2) < p) low = middle
    else high = middle
  }
  return (low + high) / 2
}
