export function moveClock(scope: { Date: DateConstructor }, ahead: number | (() => number)): void
export function aheadOf(day: string, nowMs?: number): number
export const TEST_DAY: string
