import type { IntakeCounts } from '@evenround/contract/intake'

const some = (count: number, one: string, many: string): string[] =>
  count === 0 ? [] : [`${count.toLocaleString('en-GB')} ${count === 1 ? one : many}`]

/** "12 sites, 14 systems, 31 parts (3 of them fitted nobody knows when), 18 readings". */
export function countsText({ sites, systems, parts, undated, readings }: IntakeCounts): string {
  const undatedText = undated === 0 ? '' : ` (${undated} fitted nobody knows when)`
  const words = [
    ...some(sites, 'new site', 'new sites'),
    ...some(systems, 'new system', 'new systems'),
    ...some(parts, 'part', 'parts').map((text) => `${text}${undatedText}`),
    ...some(readings, 'line of readings', 'lines of readings'),
  ]
  return words.length === 0 ? 'nothing new' : words.join(', ')
}

/** "40 lines: 35 can be imported, 5 cannot yet." */
export function linesText(lines: number, bad: number): string {
  const all = `${lines.toLocaleString('en-GB')} ${lines === 1 ? 'line' : 'lines'}`
  if (bad === 0) return lines === 1 ? 'One line, and it can be imported.' : `${all}, and all can be imported.`
  return `${all}: ${(lines - bad).toLocaleString('en-GB')} can be imported, ${bad.toLocaleString('en-GB')} cannot yet.`
}
