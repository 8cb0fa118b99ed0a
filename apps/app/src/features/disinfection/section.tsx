import { T } from '../../ui/text'
import type { Draft } from './draft'

/** A part of the plan as it is drawn up. */
export interface SectionProps {
  draft: Draft
  onChange: (next: (before: Draft) => Draft) => void
}

export const Head = ({ text }: { text: string }) => (
  <T kind="heading" level={2}>
    {text}
  </T>
)
