import { LABORATORY_COLUMNS } from '@evenround/core/job'
import { say } from '@evenround/core/words'

/** One bottle a laboratory was given. */
export interface Bottle {
  bottle: string
  takenAt: Date
}

/** What a laboratory's own service would be asked: its result file for these bottles, as far as they are ready. */
export interface Laboratory {
  name: string
  results(bottles: readonly Bottle[], now: Date): Promise<string>
}

const DAY_MS = 86_400_000
/** Germs are grown for a day and read the next. */
const READY_AFTER_DAYS = 2
/** The stand-in finds coliforms in bottles that are named for it. */
const POSITIVE = /-P$/i
const E_COLI = /-E$/i

/** A stand-in for the demo: an open CSV file two days after the sample, the same for the same bottle every time. */
export const standInLaboratory: Laboratory = {
  get name() {
    return say`Skellan Water Laboratory`
  },
  async results(bottles, now) {
    const ready = bottles.filter(({ takenAt }) => now.getTime() - takenAt.getTime() >= READY_AFTER_DAYS * DAY_MS)
    const lines = ready.map(({ bottle, takenAt }) => {
      const eColi = E_COLI.test(bottle)
      const positive = eColi || POSITIVE.test(bottle)
      const day = new Date(takenAt.getTime() + READY_AFTER_DAYS * DAY_MS).toISOString().slice(0, 10)
      return [bottle, `SWL-${bottle}`, day, positive ? 'present' : 'absent', eColi ? 'present' : 'absent', positive ? '140' : '2']
    })
    return `${[[...LABORATORY_COLUMNS, 'heterotrophic_count'], ...lines].map((row) => row.map(quoted).join(',')).join('\r\n')}\r\n`
  },
}

const quoted = (cell: string): string => (/[",\r\n]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell)
