import type { FaultDto, SystemDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { settleFault } from '../../data/from-the-door'
import { useMay } from '../../data/rights'
import { FAULT_WORDS } from '../../parts/site/fault-words'
import { Photos } from '../../parts/visit/photos'
import { stageName } from '../../parts/wear/words'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { instantText } from '../../ui/format'
import { T } from '../../ui/text'

/** Work that could be offered: what somebody saw here and nobody has mended. */
export function Faults({
  faults,
  systems,
  siteId,
  zone,
}: {
  faults: readonly FaultDto[]
  systems: readonly SystemDto[]
  siteId: string
  zone: string
}) {
  const [all, setAll] = useState(false)
  const open = faults.filter(({ settled }) => settled === null)
  const shown = all ? faults : open
  if (faults.length === 0) return null
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {say`Work to offer`}
      </T>
      {open.length === 0 ? <T kind="quiet">{say`Nothing is open.`}</T> : null}
      {shown.map((fault) => (
        <FaultLine key={fault.id} fault={fault} systems={systems} siteId={siteId} zone={zone} />
      ))}
      {faults.length > open.length ? (
        <View className="self-start">
          <Button label={all ? say`Hide what is settled` : say`${faults.length - open.length} settled`} onPress={() => setAll(!all)} />
        </View>
      ) : null}
    </View>
  )
}

function FaultLine({ fault, systems, siteId, zone }: { fault: FaultDto; systems: readonly SystemDto[]; siteId: string; zone: string }) {
  const may = useMay('record-facts')
  const [how, setHow] = useState<'done' | 'declined' | null>(null)
  const [note, setNote] = useState('')
  const { id, systemId, stageId, what, text, notedAt, byName, settled, photos } = fault
  const system = systems.find((one) => one.id === systemId)
  const stage = system?.stages.find((one) => one.id === stageId)
  const where = [system?.name ?? say`a system that is no longer here`, ...(stage ? [`${stage.position} ${stageName(stage)}`] : [])].join(
    ', ',
  )
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet p-3" role="group" aria-label={`${FAULT_WORDS[what]}, ${where}`}>
      <T>
        <T kind="strong">{`${FAULT_WORDS[what]}: `}</T>
        {`${where}.${text ? ` ${text}` : ''}`}
      </T>
      <T kind="small">{say`Seen by ${byName}, ${instantText(notedAt, zone)}`}</T>
      {[...new Set(photos.map((photo) => photo.stageId))].map((photoStage) => (
        <Photos key={photoStage} visitId={id} stageId={photoStage} kept={photos} />
      ))}
      {settled ? (
        <T kind="quiet">
          {`${settled.how === 'done' ? say`Mended` : say`The customer does not want it`}, ${instantText(settled.at, zone)}${settled.note ? `: ${settled.note}` : ''}`}
        </T>
      ) : !may ? null : how === null ? (
        <View className="flex-row flex-wrap gap-2">
          <Button label={say`It is mended`} onPress={() => setHow('done')} />
          <Button label={say`Declined`} onPress={() => setHow('declined')} />
        </View>
      ) : (
        <View className="gap-2">
          <Field
            label={how === 'done' ? say`What was done` : say`What the customer said`}
            value={note}
            onChangeText={setNote}
            maxLength={500}
          />
          <View className="flex-row flex-wrap gap-2">
            <Button label={say`Cancel`} onPress={() => setHow(null)} />
            <Button label={say`Save`} kind="act" grow onPress={() => void settleFault(siteId, fault, how, note.trim())} />
          </View>
        </View>
      )}
    </View>
  )
}
