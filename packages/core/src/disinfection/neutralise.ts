export type Neutraliser = 'thiosulfate' | 'ascorbic-acid' | 'sodium-ascorbate' | 'sulfite' | 'metabisulfite'

/** Grams a gram of chlorine: working figures at or over stoichiometry; for thiosulfate pentahydrate the weaker of its two reactions. */
export const GRAMS_PER_GRAM: Readonly<Record<Neutraliser, number>> = {
  thiosulfate: 7.0,
  'ascorbic-acid': 2.5,
  'sodium-ascorbate': 2.8,
  sulfite: 1.8,
  metabisulfite: 1.5,
}

/** Neutraliser for this water, grams, unrounded. Added to dilute water, never to concentrate; then wait, strip, add. */
export function neutralise({ volumeL, chlorineMgL, agent }: { volumeL: number; chlorineMgL: number; agent: Neutraliser }): {
  grams: number
} {
  return { grams: (volumeL * chlorineMgL * GRAMS_PER_GRAM[agent]) / 1000 }
}
