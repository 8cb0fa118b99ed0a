import { PHOTO_SIDE } from '@evenround/contract/protocol'
import { say } from '@evenround/core/words'
import sharp, { type Metadata } from 'sharp'
import { type ApiError, badInput } from '../../http/errors'
import { FairGate } from '../../http/gate'
import type { Picture } from './store'

/**
 * Devices shrink a picture before they send it; one of another program may be as it was taken. JPEG is read at an eighth of its size where
 * that is enough, the others are unfolded whole: a small file that unfolds to more is a trap.
 */
const MOST_PIXELS = { jpeg: 60_000_000, png: 16_000_000, webp: 16_000_000 } as const
type Format = keyof typeof MOST_PIXELS
const QUALITY = 80
/** A telephone's picture takes a fraction of a second. */
const LONGEST_S = 4
/** Two at once, each by one thread: pictures never have more than half of a small machine, and firms take turns. */
const studio = new FairGate({ atOnce: 2, waiting: 40, waitingEach: 12 })
sharp.concurrency(1)
sharp.cache(false)

/** What a file begins with: its name and its type anybody may have made up, and the library also reads drawings and documents. */
function formatOf(bytes: Uint8Array): Format | null {
  const begins = (...signs: number[]): boolean => signs.every((sign, index) => bytes[index] === sign)
  const says = (at: number, text: string): boolean => [...text].every((sign, index) => bytes[at + index] === sign.charCodeAt(0))
  if (begins(0xff, 0xd8, 0xff)) return 'jpeg'
  if (begins(0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a)) return 'png'
  return says(0, 'RIFF') && says(8, 'WEBP') ? 'webp' : null
}

const unreadable = (): ApiError => badInput([{ path: '$', message: say`expected a picture (JPEG, PNG or WebP) that can be read` }])

async function sizeOf(bytes: Buffer): Promise<Metadata> {
  try {
    return await sharp(bytes, { limitInputPixels: false, failOn: 'error' }).metadata()
  } catch {
    // Whatever the reason, the reader of pictures says it in its own words, which mean nothing to a technician.
    throw unreadable()
  }
}

/** The picture as it is kept: turned upright, shrunk, and free of everything the camera wrote into it (place, time, device). */
export async function keptPicture(sent: ArrayBuffer, firmId: string): Promise<Picture> {
  const bytes = Buffer.from(sent)
  const format = formatOf(bytes)
  if (format === null) throw unreadable()
  // The head alone, before anything is unfolded.
  const { width, height, pages = 1 } = await sizeOf(bytes)
  if (width * height > MOST_PIXELS[format] || pages > 1)
    throw badInput([{ path: '$', message: say`expected one picture of at most ${MOST_PIXELS[format] / 1e6} million points` }])
  return studio.run(firmId, async () => {
    try {
      const { data, info } = await sharp(bytes, { limitInputPixels: MOST_PIXELS[format], failOn: 'error', sequentialRead: true })
        .timeout({ seconds: LONGEST_S })
        .rotate()
        .resize({ width: PHOTO_SIDE, height: PHOTO_SIDE, fit: 'inside', withoutEnlargement: true })
        .jpeg({ quality: QUALITY })
        .toBuffer({ resolveWithObject: true })
      return { jpeg: data, width: info.width, height: info.height }
    } catch {
      throw unreadable()
    }
  })
}
