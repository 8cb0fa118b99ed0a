import { mulberry32 } from '../../random'
import { USUAL_YEAR_WEIGHTS, type YearInput } from '../types'

interface Sizes {
  sites: number
  areas: number
  weeks: number
}

/** A made-up firm's year: sites with one to four things that come back, some overdue, some sites shut for a season, some weeks off. */
export function drawYear(seed: number, { sites, areas, weeks }: Sizes): YearInput {
  const random = mulberry32(seed)
  const among = (from: number, to: number): number => from + Math.floor(random() * (to - from + 1))
  const closedFrom = Array.from({ length: sites }, () => (random() < 0.15 ? among(0, weeks - 4) : null))
  const chains = Array.from({ length: sites }, (_, site) =>
    Array.from({ length: among(1, 4) }, (__, index) => {
      const every = [8, 13, 26, 26, 39, 52, 52][among(0, 6)] as number
      const early = Math.min(every - 1, among(1, Math.max(1, Math.round(every * 0.2))))
      const from = closedFrom[site]
      return {
        id: `chain-${site}-${index}`,
        site: `site-${site}`,
        workMin: among(2, 12) * 5,
        every,
        last: -among(0, Math.round(every * 1.1)),
        early,
        late: among(0, Math.max(1, Math.round(every * 0.15))),
        earlyPerWeek: among(0, 8),
        latePerWeek: among(2, 20),
        ...(from === null || from === undefined ? {} : { closed: [from, from + 1, from + 2, from + 3] }),
        ...(random() < 0.03 ? { pinned: among(0, weeks - 1) } : {}),
      }
    }),
  ).flat()
  const work = chains.reduce((sum, { workMin, every }) => sum + ((workMin + 40) * weeks) / every, 0)
  return {
    weeks,
    capacityMin: Array.from({ length: weeks }, () => (random() < 0.06 ? 0 : Math.round((1.3 * work) / weeks) * (random() < 0.1 ? 0.5 : 1))),
    dayMin: 480,
    areas: Array.from({ length: areas }, (_, index) => ({
      id: `area-${index}`,
      roundTripMin: among(2, 16) * 10,
      betweenMin: among(4, 20),
    })),
    sites: Array.from({ length: sites }, (_, site) => ({ id: `site-${site}`, area: `area-${site % areas}`, visitMin: among(2, 5) * 5 })),
    chains,
    weights: USUAL_YEAR_WEIGHTS,
    seed,
  }
}
