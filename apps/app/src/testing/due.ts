import type { StageDueDto } from '@evenround/contract/wear'
import { USUAL_RULE } from '@evenround/core/wear'

/** A day to change by the evidence, eight weeks after 25 November 2026, of a part that is good. */
export const dueWith = (more: Partial<StageDueDto> = {}): StageDueDto => ({
  due: '2027-01-18',
  windowFrom: '2026-12-20',
  windowTo: '2027-03-01',
  labelDay: '2027-02-08',
  labelBy: 'days',
  labelAmount: 183,
  risk: 0.4,
  accepted: 0.45,
  ended: 0.03,
  state: 'good',
  advice: null,
  setBy: 'evidence',
  why: 'as likely over as the label accepts (45 in 100)',
  pastLimit: null,
  spentOn: '2027-02-01',
  turnsOn: null,
  rule: { ...USUAL_RULE, from: 'firm' },
  ...more,
})
