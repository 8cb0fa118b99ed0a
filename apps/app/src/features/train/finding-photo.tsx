import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { ownerKey } from '../../data/outbox'
import { keepPhoto } from '../../data/photos'
import { useMe, useVisitPage } from '../../data/queries'
import type { VisitPlace } from '../../data/visit-acts'
import { Photos } from '../../parts/visit/photos'
import { FilePick } from '../../ui/file-pick'
import { T } from '../../ui/text'

/** A photo of what came out, for whoever likes to show it; never wanted to go on. */
export function FindingPhoto({ place, stageId }: { place: VisitPlace; stageId: string }) {
  const me = useMe().data
  const kept = useVisitPage(place.visitId).data?.photos ?? []
  const [problem, setProblem] = useState<string | null>(null)
  if (!me) return null
  const keep = async (file: File): Promise<void> => {
    setProblem(null)
    try {
      await keepPhoto(ownerKey(me.firm.id, me.person.id), { siteId: place.stop.site.id, visitId: place.visitId, stageId }, file)
    } catch {
      setProblem(say`That file is no picture this device can read. Take another, or go on without.`)
    }
  }
  return (
    <View className="gap-2">
      <Photos visitId={place.visitId} stageId={stageId} kept={kept} />
      <FilePick label={say`Photo, if you like`} accept="image/*" camera kind="plain" onFile={(file) => void keep(file)} />
      {problem ? (
        <T role="alert" kind="small" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
