import type { KindDto } from '@evenround/contract/kinds'
import { type OwnCause, profileOf } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { KEY, queryClient } from '../../data/queries'
import { useUnits } from '../../data/units'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { EditMark } from '../../ui/edit-mark'
import { FilePick } from '../../ui/file-pick'
import { quantity } from '../../ui/format'
import { Notice } from '../../ui/notice'
import { saveAs } from '../../ui/save-as'
import { T } from '../../ui/text'
import { kindsAsFile, readKindsFile } from './kinds-file'
import { OwnKindForm } from './own-kind-form'

const END_WORDS: Record<KindDto['endUp'], string> = {
  washer: say`washer end towards the head`,
  arrow: say`arrow along the water`,
  either: say`either end up`,
}
const NEW = 'new'

/** Kinds of part that the firm named itself: what ends them, how they are soaked and flushed, what to be careful of. */
export function OwnKinds({ kinds, mayEdit }: { kinds: readonly KindDto[]; mayEdit: boolean }) {
  const [editing, setEditing] = useState<string | null>(null)
  const [told, setTold] = useState<{ tone: 'good' | 'danger'; title: string; text: string } | null>(null)
  const takeFile = async (file: File): Promise<void> => {
    const read = await readKindsFile(await file.text())
    if (!read.ok) {
      setTold({ tone: 'danger', title: say`${file.name} could not be imported`, text: read.message })
      return
    }
    const wrong: string[] = []
    for (const kind of read.kinds) {
      try {
        await ask(api.kinds.$post({ json: kind }))
      } catch (error) {
        wrong.push(error instanceof Error ? error.message : say`${kind.name} could not be saved.`)
      }
    }
    await queryClient.invalidateQueries({ queryKey: KEY.shelf })
    const added = read.kinds.length - wrong.length
    setTold({
      tone: wrong.length > 0 ? 'danger' : 'good',
      title: say`${added} of ${read.kinds.length} kinds imported`,
      text: wrong.length > 0 ? wrong.join(' ') : say`They can be chosen for parts and in the plumbing now.`,
    })
  }
  return (
    <View className="gap-2 pt-4">
      <T kind="heading" level={2}>
        {say`Kinds of your own`}
      </T>
      <T kind="small">
        {say`For what the list above does not name: choose it for a part under Parts, and for a position in a system’s plumbing. It is isolated, soaked, flushed and timed like the rest.`}
      </T>
      {kinds.map((kind) =>
        editing === kind.id ? (
          <OwnKindForm key={kind.id} kind={kind} onDone={() => setEditing(null)} />
        ) : (
          <KindRow key={kind.id} kind={kind} onEdit={mayEdit ? () => setEditing(kind.id) : null} />
        ),
      )}
      {told ? (
        <Notice tone={told.tone} title={told.title} live>
          <T>{told.text}</T>
        </Notice>
      ) : null}
      {!mayEdit ? null : editing === NEW ? (
        <OwnKindForm kind={null} onDone={() => setEditing(null)} />
      ) : (
        <View className="flex-row flex-wrap gap-3">
          <Button label={say`Add a kind`} onPress={() => setEditing(NEW)} />
          <FilePick label={say`Import kinds`} accept=".json,application/json" kind="plain" onFile={(file) => void takeFile(file)} />
          {kinds.length > 0 ? (
            <Button label={say`Export kinds`} onPress={() => saveAs('kinds.json', kindsAsFile(kinds), 'application/json')} />
          ) : null}
        </View>
      )}
    </View>
  )
}

const worthOf = ({ causes, lifeMonths, ratedLitres }: KindDto, litres: (value: number) => string): string => {
  const said = (cause: OwnCause): boolean => causes.includes(cause)
  return [
    ...(lifeMonths === null || (causes.length === 1 && said('throughput')) ? [] : [say`${Math.round(lifeMonths * 10) / 10} months`]),
    ...(ratedLitres === null ? [] : [litres(ratedLitres)]),
  ].join(', ')
}

function KindRow({ kind, onEdit }: { kind: KindDto; onEdit: (() => void) | null }) {
  const units = useUnits()
  const volume = (litres: number): string => quantity(litres, 'volume', units)
  const { name, flush, soakHours, endUp, cautions } = kind
  const { endsBy } = profileOf({ media: kind.id, own: kind })
  return (
    <View className="flex-row gap-3 border-t-2 border-line py-2">
      <View className="flex-1 gap-0.5">
        <T kind="strong">{stageName({ media: kind.id })}</T>
        <T>{say`Ends by ${endsBy}.`}</T>
        <T>{`${worthOf(kind, volume)} · ${END_WORDS[endUp]}`}</T>
        <T kind="quiet">
          {[
            soakHours === null ? say`No soak` : say`Soaks ${soakHours} h`,
            flush === null
              ? say`no flush`
              : say`flushed ${flush.minutes} min or ${volume(flush.litres)}, whichever comes last${flush.alone ? say`, alone` : ''}`,
          ].join('; ')}
        </T>
        {cautions.length > 0 ? <T kind="small">{cautions.join(' ')}</T> : null}
      </View>
      {onEdit ? <EditMark what={name} onPress={onEdit} /> : null}
    </View>
  )
}
