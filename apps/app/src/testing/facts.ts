import { done } from '@evenround/core/visit'

const AT = '2026-11-25T10:00:00.000Z'

/** What every fact carries. */
export const base = (id: string) => ({ id, at: AT, seq: 1, siteId: 'site', visitId: 'visit', supersedes: null, voided: false })

/** A tick, without what every fact carries. */
export const TICK = { kind: 'step-done' as const, stepKey: 'k', verb: null, stageId: null, ...done() }

/** A count of dissolved solids as a screen writes it. */
export const reading = (display: number) => ({
  kind: 'tds-reading' as const,
  siteId: '0190c0de-0000-7000-8000-000000000001',
  visitId: '0190c0de-0000-7000-8000-000000000002',
  systemId: '0190c0de-0000-7000-8000-000000000003',
  phase: 'before' as const,
  water: 'untreated' as const,
  display,
  multiplier: 1 as const,
  quantity: 'tds' as const,
  scale: 0.5 as const,
  compensated: true,
  temperatureC: null,
  settled: true,
  keptDespiteDoubt: false,
})
