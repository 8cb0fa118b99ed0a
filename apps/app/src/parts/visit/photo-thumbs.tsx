import { say } from '@evenround/core/words'
import { useEffect, useMemo } from 'react'
import { Image, Pressable, View } from 'react-native'
import { dropPhoto, type WaitingPhoto } from '../../data/photos'
import { T } from '../../ui/text'

interface PhotoThumbsProps {
  /** What the pictures show, for whoever does not see them. */
  alt: string
  stored: readonly { id: string }[]
  waiting: readonly WaitingPhoto[]
}

/** Pictures in a row: those the server has, each opened by a tap, and those still on the device. */
export function PhotoThumbs({ alt, stored, waiting }: PhotoThumbsProps) {
  if (stored.length + waiting.length === 0) return null
  return (
    <View className="flex-row flex-wrap gap-3">
      {stored.map(({ id }) => (
        <a
          key={id}
          href={`/api/photos/${id}`}
          target="_blank"
          rel="noreferrer"
          aria-label={say`Open the photo`}
          className="block h-[88px] w-[88px]"
        >
          <Image
            source={{ uri: `/api/photos/${id}` }}
            accessibilityLabel={alt}
            className="h-[88px] w-[88px] rounded-card border-2 border-line"
          />
        </a>
      ))}
      {waiting.map((photo) => (
        <OnDevice key={photo.id} photo={photo} alt={alt} />
      ))}
    </View>
  )
}

function OnDevice({ photo, alt }: { photo: WaitingPhoto; alt: string }) {
  const address = useMemo(() => URL.createObjectURL(photo.jpeg), [photo])
  useEffect(() => () => URL.revokeObjectURL(address), [address])
  return (
    <View className="w-[100px] gap-1">
      <Image source={{ uri: address }} accessibilityLabel={alt} className="h-[88px] w-[88px] rounded-card border-2 border-line" />
      <T kind="small">{photo.state === 'refused' ? say`refused, kept here` : say`not sent yet`}</T>
      <Pressable
        role="button"
        aria-label={say`Take the photo back`}
        onPress={() => void dropPhoto(photo.id)}
        className="min-h-[48px] justify-center"
      >
        <T kind="small" className="underline">
          {say`take back`}
        </T>
      </Pressable>
    </View>
  )
}
