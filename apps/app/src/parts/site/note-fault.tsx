import type { FaultDto, StopDto } from '@evenround/contract/site'
import { many, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { noteFault } from '../../data/from-the-door'
import { ownerKey } from '../../data/outbox'
import { keepPhoto } from '../../data/photos'
import { useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { Button } from '../../ui/button'
import { Choice } from '../../ui/choice'
import { Field } from '../../ui/field'
import { FilePick } from '../../ui/file-pick'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'
import { Photos } from '../visit/photos'
import { stageName } from '../wear/words'
import { FAULT_WORDS } from './fault-words'

interface NoteFaultProps {
  system: StopDto['system']
  siteId: string
  /** The visit it was seen at; without one it stands alone. */
  visitId: string | null
}

/** What is seen and is not today's work: noted with a photo, it becomes work to offer. */
export function NoteFault(props: NoteFaultProps) {
  const may = useMay('record-facts')
  const [open, setOpen] = useState(false)
  const [noted, setNoted] = useState(0)
  if (!may) return null
  if (open)
    return (
      <FaultForm
        key={noted}
        {...props}
        onDone={(kept) => {
          setOpen(false)
          if (kept) setNoted((before) => before + 1)
        }}
      />
    )
  return (
    <View className="gap-1 self-start">
      <Button label={say`Note a fault for later`} onPress={() => setOpen(true)} />
      {noted > 0 ? (
        <T kind="small" role="status">
          {many(noted, 'fault noted: it stands on the site as work to offer.', 'faults noted: they stand on the site as work to offer.')}
        </T>
      ) : null}
    </View>
  )
}

function FaultForm({ system, siteId, visitId, onDone }: NoteFaultProps & { onDone: (kept: boolean) => void }) {
  const me = useMe().data
  const [faultId] = useState(() => uuidv7())
  const [what, setWhat] = useState<FaultDto['what'] | null>(null)
  const [stageId, setStageId] = useState('')
  const [text, setText] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  // Photos hang on a stage: of a fault that is nobody's, on the first one's.
  const photoStage = stageId || (system.stages[0]?.id ?? '')
  const keep = async (file: File): Promise<void> => {
    setProblem(null)
    try {
      if (me) await keepPhoto(ownerKey(me.firm.id, me.person.id), { siteId, visitId: faultId, stageId: photoStage }, file)
    } catch {
      setProblem(say`That file is no picture this device can read. Take another, or go on without.`)
    }
  }
  const save = async (): Promise<void> => {
    if (what === null) return
    await noteFault(
      { siteId, visitId: visitId ?? faultId },
      { faultId, systemId: system.id, stageId: stageId === '' ? null : stageId, what, text: text.trim() },
    )
    onDone(true)
  }
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={say`A fault for later`}>
      <Choice
        label={say`What did you see?`}
        value={what}
        options={(Object.keys(FAULT_WORDS) as FaultDto['what'][]).map((value) => ({ value, label: FAULT_WORDS[value] }))}
        onChange={setWhat}
      />
      <Select
        label={say`Where`}
        value={stageId}
        none={say`The system as a whole`}
        groups={[
          {
            label: say`Positions`,
            options: system.stages.map((stage) => ({ value: stage.id, label: `${stage.position} · ${stageName(stage)}` })),
          },
        ]}
        onChange={setStageId}
      />
      <Field
        label={say`In your words`}
        value={text}
        onChangeText={setText}
        maxLength={500}
        multiline
        hint={say`What it wants, and how soon`}
      />
      {photoStage === '' ? null : (
        <>
          <Photos visitId={faultId} stageId={photoStage} kept={[]} />
          <FilePick label={say`Photo, if you like`} accept="image/*" camera kind="plain" onFile={(file) => void keep(file)} />
        </>
      )}
      {problem ? (
        <T role="alert" kind="small" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Cancel`} onPress={() => onDone(false)} />
        <Button
          label={say`Note it`}
          kind="act"
          grow
          disabled={what === null || (what === 'other' && text.trim() === '')}
          onPress={() => void save()}
        />
      </View>
    </View>
  )
}
