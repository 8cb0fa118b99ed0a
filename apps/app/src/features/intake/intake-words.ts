import { many } from '@evenround/core/words'
import type { IntakeCounts } from '@evenround/contract/intake'

/** "12 sites, 14 systems, 31 parts (3 of them fitted nobody knows when), 18 readings". */
export function countsText({ sites, systems, parts, undated, readings }: IntakeCounts): string {
  const undatedText = undated === 0 ? '' : ` (${undated} fitted nobody knows when)`
  const words = [
    ...(sites > 0 ? [many(sites, 'new site', 'new sites')] : []),
    ...(systems > 0 ? [many(systems, 'new system', 'new systems')] : []),
    ...(parts > 0 ? [`${many(parts, 'part', 'parts')}${undatedText}`] : []),
    ...(readings > 0 ? [many(readings, 'line of readings', 'lines of readings')] : []),
  ]
  return words.length === 0 ? 'nothing new' : words.join(', ')
}

/** "40 lines: 35 can be imported, 5 cannot yet." */
export function linesText(lines: number, bad: number): string {
  const all = many(lines, 'line', 'lines')
  if (bad === 0) return lines === 1 ? 'One line, and it can be imported.' : `${all}, and all can be imported.`
  return `${all}: ${(lines - bad).toLocaleString('en-GB')} can be imported, ${bad.toLocaleString('en-GB')} cannot yet.`
}
