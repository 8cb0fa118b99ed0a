import type { RulePreview } from '@evenround/contract/wear'
import type { RuleLevel } from '@evenround/core/firm'
import type { KeptRule } from '@evenround/core/wear'
import { midSentence, say } from '@evenround/core/words'
import { shortDay } from '../../ui/format'
import { monthsText } from './words'

export const BY_WORDS: Record<KeptRule['by'], { name: string; why: string }> = {
  evidence: {
    name: say`By the evidence`,
    why: say`When the part has become as likely to be over as its label accepts at an ordinary household. A hard site comes earlier, a gentle one later, and never later than the label.`,
  },
  label: { name: say`By the label`, why: say`When the first of its rated days, litres or hours is used up, whatever the place.` },
  contract: {
    name: say`By contract`,
    why: say`Every so many months, as it was promised to the customer. What is believed of the part only advises.`,
  },
}
export const CARE_WORDS: Record<KeptRule['care'], string> = {
  careful: say`Careful`,
  'as-label': say`As the label`,
  sparing: say`Sparing`,
}
export const CARE_WHY: Record<KeptRule['care'], string> = {
  careful: say`Half the chance of being over that the label accepts.`,
  'as-label': say`As likely to be over as the label itself accepts.`,
  sparing: say`Parts are used up further. Lamps and sleeves never are.`,
}

/** "contract of 6 months from 1 Mar", "by the evidence, careful". */
export function ruleText({ by, months, anchor, care, beyondLabel }: KeptRule, today: string): string {
  const careful = care === 'as-label' ? '' : `, ${midSentence(CARE_WORDS[care])}`
  if (by === 'contract')
    return say`contract of ${monthsText(months ?? 0)}${anchor === null ? '' : say`, counted from ${shortDay(anchor, today)}`}`
  if (by === 'label') return say`by the label${careful}`
  return say`by the evidence${careful}${beyondLabel ? say`, past the label where it may` : ''}`
}

export const FROM_WORDS: Record<RuleLevel, string> = {
  firm: say`the firm’s choice`,
  medium: say`the firm’s choice for this kind of part`,
  site: say`chosen for this site`,
  system: say`chosen for this system`,
  stage: say`chosen for this stage`,
}

/** What a choice would do, in a sentence. */
export function previewText({ looked, earlier, later, medianShiftDays }: RulePreview): string {
  if (looked === 0) return say`Nothing that is due follows this choice yet.`
  const next = looked === 1 ? say`The next due day` : say`Of the next ${looked} due days`
  if (earlier === 0 && later === 0) return looked === 1 ? say`${next} stays as it is.` : say`${next} none moves.`
  if (looked === 1) return say`${next} comes ${Math.abs(medianShiftDays)} days ${medianShiftDays < 0 ? say`earlier` : say`later`}.`
  const half =
    medianShiftDays === 0
      ? say`Half of them or more stay.`
      : say`The middle one moves ${Math.abs(Math.round(medianShiftDays))} days ${medianShiftDays < 0 ? say`earlier` : say`later`}.`
  return say`${next} ${earlier} come earlier and ${later} later. ${half}`
}
