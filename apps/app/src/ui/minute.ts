/** "9", "9:30", "09.30", "930" as minutes after midnight; null for anything else. */
export function minuteOf(text: string): number | null {
  const found = /^\s*(\d{1,2})(?:[:.]?(\d{2}))?\s*$/.exec(text)
  if (!found) return null
  const [hours, minutes] = [Number(found[1]), Number(found[2] ?? 0)]
  return hours <= 24 && minutes < 60 && hours * 60 + minutes <= 1440 ? hours * 60 + minutes : null
}
