import { PHOTO_SIDE } from '@evenround/contract/protocol'
import { say } from '@evenround/core/words'
import sharp from 'sharp'
import { badInput } from '../../http/errors'
import type { Picture } from './store'

/** Nothing a telephone takes has more; a small file that unfolds to more is a trap. */
const MOST_PIXELS = 60_000_000
const QUALITY = 80

/** The picture as it is kept: turned upright, shrunk, and free of everything the camera wrote into it (place, time, device). */
export async function keptPicture(bytes: ArrayBuffer): Promise<Picture> {
  try {
    const image = sharp(Buffer.from(bytes), { limitInputPixels: MOST_PIXELS, failOn: 'error' })
    const { data, info } = await image
      .rotate()
      .resize({ width: PHOTO_SIDE, height: PHOTO_SIDE, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: QUALITY })
      .toBuffer({ resolveWithObject: true })
    return { jpeg: data, width: info.width, height: info.height }
  } catch {
    // Whatever the reason, the reader of pictures says it in its own words, which mean nothing to a technician.
    throw badInput([{ path: '$', message: say`expected a picture (JPEG, PNG or WebP) that can be read` }])
  }
}
