import { minuteOf } from './minute'

/** "8-12, 13:30-16" as spans; null where it cannot be read. */
export function spansOf(text: string): [number, number][] | null {
  if (text.trim() === '') return []
  const spans = text.split(',').map((part) => part.split(/[-–]/).map((one) => minuteOf(one)))
  const good = spans.every(([from, to], index) => {
    const before = spans[index - 1]?.[1]
    return from != null && to != null && from < to && (before == null || before <= from)
  })
  return good && spans.every(({ length }) => length === 2) ? (spans as [number, number][]) : null
}
