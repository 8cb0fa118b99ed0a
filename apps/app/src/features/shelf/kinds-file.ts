import { type KindDto, kindNewSchema } from '@evenround/contract/kinds'
import { z } from 'zod'

const fileSchema = z.object({ kinds: z.array(kindNewSchema).min(1).max(100) })
type NewKind = z.output<typeof kindNewSchema>

/** The firm's kinds as a file another firm can import: JSON, a list of them under `kinds`. */
export const kindsAsFile = (kinds: readonly KindDto[]): string =>
  `${JSON.stringify({ kinds: kinds.map(({ id: _, version: __, ...kind }) => kind) }, null, 2)}\n`

/** Kinds out of such a file, or where it is wrong. */
export function readKindsFile(text: string): { ok: true; kinds: NewKind[] } | { ok: false; message: string } {
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch {
    return { ok: false, message: 'It is not JSON. Export kinds writes a file of the right form.' }
  }
  const read = fileSchema.safeParse(raw)
  if (read.success) return { ok: true, kinds: read.data.kinds }
  const [first] = read.error.issues
  return { ok: false, message: `${first?.path.join(' › ') || 'The file'}: ${first?.message ?? 'not understood'}. Nothing was imported.` }
}
