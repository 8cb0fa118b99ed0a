import { v7 as uuidv7 } from 'uuid'

/** A moment by a clock that nobody sets: milliseconds since this page was opened, and which page. */
export interface Moment {
  page: string
  ms: number
}

const page = uuidv7()
export const momentNow = (): Moment => ({ page, ms: performance.now() })

/**
 * The latest instant, by the device's clock as it stands now, that a moment of this page can have been at; null for one of an earlier
 * page. It may have been earlier: this clock stands still while the device sleeps.
 */
export const latestOf = (moment: Moment | undefined): string | null =>
  moment?.page === page ? new Date(Date.now() - (performance.now() - moment.ms)).toISOString() : null
