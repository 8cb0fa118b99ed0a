import type { PhotoDto } from '@evenround/contract/photo'
import { useEffect, useMemo } from 'react'
import { Image, Pressable, View } from 'react-native'
import { dropPhoto, usePhotos, type WaitingPhoto } from '../../data/photos'
import { T } from '../../ui/text'

/** Photos of one stage at one visit: those the server has, and those still on the device. */
export function Photos({ visitId, stageId, kept }: { visitId: string; stageId: string; kept: readonly PhotoDto[] }) {
  const waiting = usePhotos(({ photos }) => photos)
  const own = waiting.filter(({ place }) => place.visitId === visitId && place.stageId === stageId)
  const stored = kept.filter((photo) => photo.stageId === stageId)
  if (own.length + stored.length === 0) return null
  return (
    <View className="flex-row flex-wrap gap-3">
      {stored.map(({ id }) => (
        <a
          key={id}
          href={`/api/photos/${id}`}
          target="_blank"
          rel="noreferrer"
          aria-label="Open the photo"
          className="block h-[88px] w-[88px]"
        >
          <Image
            source={{ uri: `/api/photos/${id}` }}
            accessibilityLabel="Photo of what came out"
            className="h-[88px] w-[88px] rounded-card border-2 border-line"
          />
        </a>
      ))}
      {own.map((photo) => (
        <OnDevice key={photo.id} photo={photo} />
      ))}
    </View>
  )
}

function OnDevice({ photo }: { photo: WaitingPhoto }) {
  const address = useMemo(() => URL.createObjectURL(photo.jpeg), [photo])
  useEffect(() => () => URL.revokeObjectURL(address), [address])
  return (
    <View className="w-[100px] gap-1">
      <Image
        source={{ uri: address }}
        accessibilityLabel="Photo of what came out"
        className="h-[88px] w-[88px] rounded-card border-2 border-line"
      />
      <T kind="small">{photo.state === 'refused' ? 'refused, kept here' : 'not sent yet'}</T>
      <Pressable
        role="button"
        aria-label="Take the photo back"
        onPress={() => void dropPhoto(photo.id)}
        className="min-h-[48px] justify-center"
      >
        <T kind="small" className="underline">
          take back
        </T>
      </Pressable>
    </View>
  )
}
