/** By which passage a membrane is watched and replaced: of the feed by a fixed floor, and as a multiple of its own first one. */
export const USUAL_MEMBRANE = { watchPassage: 0.1, replacePassage: 0.15, watchRatio: 1.5, replaceRatio: 2 } as const
/** The most that is usual after a mixed bed, mg/L. */
export const RESIN_TARGET_MGL = 10
/** Equivalents one litre of mixed bed takes up. */
export const USUAL_RESIN_EQ_PER_L = 0.55
