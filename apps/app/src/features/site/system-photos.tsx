import type { PhotoOf, SystemPhotoDto } from '@evenround/contract/photo'
import type { SystemDto } from '@evenround/contract/site'
import { many, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { ownerKey } from '../../data/outbox'
import { keepPhoto, usePhotos } from '../../data/photos'
import { useMe } from '../../data/queries'
import { PhotoThumbs } from '../../parts/visit/photo-thumbs'
import { FilePick } from '../../ui/file-pick'
import { T } from '../../ui/text'

const SHOWS = { installation: say`The installation`, label: say`A label` } as const
const ALT = { installation: say`Photo of the installation`, label: say`Photo of a label`, finding: say`Photo of what came out` } as const

/** Photos of the installation and of its labels: they stay with the system, wherever it goes. */
export function SystemPhotos({ system, kept }: { system: SystemDto; kept: readonly SystemPhotoDto[] }) {
  const me = useMe().data
  const waiting = usePhotos(({ photos }) => photos)
  const [problem, setProblem] = useState<string | null>(null)
  const mayTake = me?.rights.includes('record-facts') === true
  const keep = async (what: PhotoOf, file: File): Promise<void> => {
    if (!me) return
    setProblem(null)
    try {
      await keepPhoto(ownerKey(me.firm.id, me.person.id), { siteId: system.siteId, systemId: system.id, what }, file)
    } catch {
      setProblem(say`That file is no picture this device can read.`)
    }
  }
  return (
    <View className="gap-2">
      {(['installation', 'label'] as const).map((what) => (
        <PhotoThumbs
          key={what}
          alt={ALT[what]}
          stored={kept.filter((photo) => photo.systemId === system.id && photo.what === what)}
          waiting={waiting.filter(({ place }) => place.systemId === system.id && place.what === what)}
        />
      ))}
      {mayTake ? (
        <View className="flex-row flex-wrap gap-2">
          <FilePick
            label={say`Photo of the installation`}
            accept="image/*"
            camera
            kind="plain"
            onFile={(file) => void keep('installation', file)}
          />
          <FilePick label={say`Photo of a label`} accept="image/*" camera kind="plain" onFile={(file) => void keep('label', file)} />
        </View>
      ) : null}
      {problem ? (
        <T role="alert" kind="small" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}

/** Photos taken before the site is there: chosen now, kept with the system once it is made. */
export interface Taken {
  what: 'installation' | 'label'
  file: File
}
export function TakePhotos({ taken, onTaken }: { taken: readonly Taken[]; onTaken: (taken: Taken[]) => void }) {
  return (
    <View className="gap-2">
      <View className="flex-row flex-wrap gap-2">
        {(['installation', 'label'] as const).map((what) => (
          <FilePick
            key={what}
            label={what === 'installation' ? say`Photo of the installation` : say`Photo of a label`}
            accept="image/*"
            camera
            kind="plain"
            onFile={(file) => onTaken([...taken, { what, file }])}
          />
        ))}
      </View>
      {taken.length > 0 ? (
        <T kind="quiet">{say`${taken.map(({ what }) => SHOWS[what]).join(', ')}: ${many(taken.length, 'photo', 'photos')}, kept with the system.`}</T>
      ) : null}
    </View>
  )
}
