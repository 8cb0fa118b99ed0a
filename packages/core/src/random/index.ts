/** Small and quick, and the same everywhere. Returns numbers in [0, 1). */
export function mulberry32(seed: number): () => number {
  let state = (seed | 0) ^ 0x9e3779b9
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
}
