/**
 * Upper tail of the standard normal, P(Z > z), from a table with linear interpolation: it is asked a thousand times a forecast.
 * Absolute error < 3e-6, relative error < 1e-3 up to z = 9; beyond that the asymptotic series (Abramowitz & Stegun 26.2.12).
 */

const REACH = 9
const PER_UNIT = 128
const TABLE = buildTable()

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

function buildTable(): Float64Array {
  const table = new Float64Array(2 * REACH * PER_UNIT + 2)
  for (let i = 0; i < table.length; i++) table[i] = 0.5 * erfc((i / PER_UNIT - REACH) / Math.SQRT2)
  return table
}

const SQRT_TWO_PI = Math.sqrt(2 * Math.PI)

/** P(Z > z) for a standard normal Z; any finite or infinite z. */
export function upperTail(z: number): number {
  if (z <= -REACH) return 1
  if (z < REACH) {
    const at = (z + REACH) * PER_UNIT
    const index = at | 0
    const low = TABLE[index] as number
    return low + (at - index) * ((TABLE[index + 1] as number) - low)
  }
  const z2 = z * z
  return (Math.exp(-z2 / 2) / (z * SQRT_TWO_PI)) * (1 - 1 / z2 + 3 / (z2 * z2))
}
