import type { PhotoDto } from '@evenround/contract/photo'
import { say } from '@evenround/core/words'
import { usePhotos } from '../../data/photos'
import { PhotoThumbs } from './photo-thumbs'

/** Photos of one stage at one visit: those the server has, and those still on the device. */
export function Photos({ visitId, stageId, kept }: { visitId: string; stageId: string; kept: readonly PhotoDto[] }) {
  const waiting = usePhotos(({ photos }) => photos)
  return (
    <PhotoThumbs
      alt={say`Photo of what came out`}
      stored={kept.filter((photo) => photo.stageId === stageId)}
      waiting={waiting.filter(({ place }) => place.visitId === visitId && place.stageId === stageId)}
    />
  )
}
