import type { MediumProfileDto } from '@evenround/contract/shelf'
import { MEDIA_PROFILES } from '@evenround/core/catalogue'
import { numberText, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { useDesk } from '../../ui/desk'
import { EditMark } from '../../ui/edit-mark'
import { quantity } from '../../ui/format'
import { T } from '../../ui/text'
import { LIMIT_WORDS, limitText } from './limits'
import { MediumForm } from './medium-form'

/** Every medium: what ends it, what it is worth, where its readings end it, how it is flushed, and what to watch for. */
export function Media({ media, mayEdit }: { media: readonly MediumProfileDto[]; mayEdit: boolean }) {
  const [editing, setEditing] = useState<string | null>(null)
  const desk = useDesk()
  return (
    <View className={desk ? 'flex-row flex-wrap gap-x-8' : ''}>
      {media.map((profile) => (
        <View key={profile.media} className={desk ? 'w-[calc(50%-1rem)]' : ''}>
          {profile.media === editing ? (
            <MediumForm profile={profile} onDone={() => setEditing(null)} />
          ) : (
            <MediumRow profile={profile} onEdit={mayEdit ? () => setEditing(profile.media) : null} />
          )}
        </View>
      ))}
    </View>
  )
}

function MediumRow({ profile, onEdit }: { profile: MediumProfileDto; onEdit: (() => void) | null }) {
  const units = useUnits()
  const { name, endsBy, flush, watchFor } = MEDIA_PROFILES[profile.media]
  const { lifeMonths, ratedLitres, ratedHours, limits, version } = profile
  const worth = [
    ...(lifeMonths === null ? [] : [say`${Math.round(lifeMonths * 10) / 10} months`]),
    ...(ratedLitres === null ? [] : [quantity(ratedLitres, 'volume', units)]),
    ...(ratedHours === null ? [] : [say`${numberText(ratedHours)} h`]),
  ]
  const ends = Object.entries(limits).map(
    ([key, value]) => `${LIMIT_WORDS[key as keyof typeof limits]} ${limitText(key as keyof typeof limits, value ?? 0, units)}`,
  )
  return (
    <View className="flex-row gap-3 border-t-2 border-line py-2">
      <View className="flex-1 gap-0.5">
        <T kind="strong">{`${name.charAt(0).toUpperCase()}${name.slice(1)}`}</T>
        <T>{say`Ends by ${endsBy}.`}</T>
        <T>{`${worth.length > 0 ? worth.join(', ') : say`No life of its own: by capacity`} · ${version === 0 ? say`our default` : say`the firm’s own figure`}`}</T>
        {ends.length > 0 ? <T kind="quiet">{say`Replace at: ${ends.join('; ')}.`}</T> : null}
        <T kind="quiet">
          {flush
            ? say`Flushed ${Math.round(flush.minutes)} min or ${quantity(flush.litres, 'volume', units)}, whichever comes last.`
            : say`No flush.`}
        </T>
        <T kind="small">{watchFor}</T>
      </View>
      {onEdit ? <EditMark what={name} onPress={onEdit} /> : null}
    </View>
  )
}
