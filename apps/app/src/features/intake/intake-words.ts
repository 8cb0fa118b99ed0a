import type { IntakeCounts } from '@evenround/contract/intake'
import { many, numberText, say } from '@evenround/core/words'

/** "12 sites, 14 systems, 31 parts (3 of them fitted nobody knows when), 18 readings". */
export function countsText({ sites, systems, parts, undated, readings }: IntakeCounts): string {
  const undatedText = undated === 0 ? '' : say` (${undated} fitted nobody knows when)`
  const words = [
    ...(sites > 0 ? [many(sites, 'new site', 'new sites')] : []),
    ...(systems > 0 ? [many(systems, 'new system', 'new systems')] : []),
    ...(parts > 0 ? [`${many(parts, 'part', 'parts')}${undatedText}`] : []),
    ...(readings > 0 ? [many(readings, 'line of readings', 'lines of readings')] : []),
  ]
  return words.length === 0 ? say`nothing new` : words.join(', ')
}

/** "40 lines: 35 can be imported, 5 cannot yet." */
export function linesText(lines: number, bad: number): string {
  const all = many(lines, 'line', 'lines')
  if (bad === 0) return lines === 1 ? say`One line, and it can be imported.` : say`${all}, and all can be imported.`
  return say`${all}: ${numberText(lines - bad)} can be imported, ${numberText(bad)} cannot yet.`
}
