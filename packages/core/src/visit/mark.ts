/**
 * What is written on the part with a marker: position, part number, the day as day/month/year, initials.
 * Short enough for a wet cartridge: `2 · BRK-CB-20 · 06/03/26 · TO`.
 */
export function markText(input: { position: number; partNumber: string; day: string; person: string }): string {
  const [year, month, date] = input.day.split('-') as [string, string, string]
  const initials = input.person
    .split(/\s+/)
    .map((word) => word.charAt(0).toUpperCase())
    .join('')
  return `${input.position} · ${input.partNumber} · ${date}/${month}/${year.slice(2)} · ${initials}`
}
