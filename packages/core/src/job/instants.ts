/** ISO UTC. */
export type Instant = string

const HOUR_MS = 3_600_000
export const plusHours = (at: Instant, hours: number): Instant => new Date(Date.parse(at) + hours * HOUR_MS).toISOString()
export const minutesBetween = (from: Instant, to: Instant): number => (Date.parse(to) - Date.parse(from)) / 60_000
