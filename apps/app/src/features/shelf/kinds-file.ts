import type { KindDto, KindsFile } from '@evenround/contract/kinds'
import { say } from '@evenround/core/words'

/** The firm's kinds as a file another firm can import: JSON, a list of them under `kinds`. */
export const kindsAsFile = (kinds: readonly KindDto[]): string =>
  `${JSON.stringify({ kinds: kinds.map(({ id: _, version: __, ...kind }) => kind) }, null, 2)}\n`

type ReadKinds = { ok: true; kinds: KindsFile['kinds'] } | { ok: false; message: string }

/** Kinds out of such a file, or where it is wrong. What checks it is brought when somebody imports one. */
export async function readKindsFile(text: string): Promise<ReadKinds> {
  let raw: unknown
  try {
    raw = JSON.parse(text)
  } catch {
    return { ok: false, message: say`It is not JSON. Export kinds writes a file of the right form.` }
  }
  const { kindsFileSchema } = await import('@evenround/contract/kinds')
  const read = kindsFileSchema.safeParse(raw)
  if (read.success) return { ok: true, kinds: read.data.kinds }
  const [first] = read.error.issues
  return {
    ok: false,
    message: say`${first?.path.join(' › ') || say`The file`}: ${first?.message ?? say`not understood`}. Nothing was imported.`,
  }
}
