import type { RulePreview } from '@evenround/contract/wear'
import type { RuleLevel } from '@evenround/core/firm'
import type { KeptRule } from '@evenround/core/wear'
import { shortDay } from '../../ui/format'
import { monthsText } from './words'

export const BY_WORDS: Record<KeptRule['by'], { name: string; why: string }> = {
  evidence: {
    name: 'By the evidence',
    why: 'When the part has become as likely to be over as its label accepts at an ordinary household. A hard site comes earlier, a gentle one later, and never later than the label.',
  },
  label: { name: 'By the label', why: 'When the first of its rated days, litres or hours is used up, whatever the place.' },
  contract: {
    name: 'By contract',
    why: 'Every so many months, as it was promised to the customer. What is believed of the part only advises.',
  },
}
export const CARE_WORDS: Record<KeptRule['care'], string> = {
  careful: 'Careful',
  'as-label': 'As the label',
  sparing: 'Sparing',
}
export const CARE_WHY: Record<KeptRule['care'], string> = {
  careful: 'Half the chance of being over that the label accepts.',
  'as-label': 'As likely to be over as the label itself accepts.',
  sparing: 'Parts are used up further. Lamps and sleeves never are.',
}

/** "contract of 6 months from 1 Mar", "by the evidence, careful". */
export function ruleText({ by, months, anchor, care, beyondLabel }: KeptRule, today: string): string {
  const careful = care === 'as-label' ? '' : `, ${CARE_WORDS[care].toLowerCase()}`
  if (by === 'contract')
    return `contract of ${monthsText(months ?? 0)}${anchor === null ? '' : `, counted from ${shortDay(anchor, today)}`}`
  if (by === 'label') return `by the label${careful}`
  return `by the evidence${careful}${beyondLabel ? ', past the label where it may' : ''}`
}

export const FROM_WORDS: Record<RuleLevel, string> = {
  firm: 'the firm’s choice',
  medium: 'the firm’s choice for this kind of part',
  site: 'chosen for this site',
  system: 'chosen for this system',
  stage: 'chosen for this stage',
}

/** What a choice would do, in a sentence. */
export function previewText({ looked, earlier, later, medianShiftDays }: RulePreview): string {
  if (looked === 0) return 'Nothing that is due follows this choice yet.'
  const next = looked === 1 ? 'The next due day' : `Of the next ${looked} due days`
  if (earlier === 0 && later === 0) return looked === 1 ? `${next} stays as it is.` : `${next} none moves.`
  if (looked === 1) return `${next} comes ${Math.abs(medianShiftDays)} days ${medianShiftDays < 0 ? 'earlier' : 'later'}.`
  const half =
    medianShiftDays === 0
      ? 'Half of them or more stay.'
      : `The middle one moves ${Math.abs(Math.round(medianShiftDays))} days ${medianShiftDays < 0 ? 'earlier' : 'later'}.`
  return `${next} ${earlier} come earlier and ${later} later. ${half}`
}
