import type { IntakeDto } from '@evenround/contract/intake'
import { isUnderWay } from '@evenround/contract/lists'
import { INTAKE_GROUPS, INTAKE_LABELS } from '@evenround/core/intake'
import { say } from '@evenround/core/words'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { KEY, queryClient, useMe } from '../../data/queries'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { instantText } from '../../ui/format'
import { saveAs } from '../../ui/save-as'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'
import { AtWork, LOOK_EVERY_MS } from './at-work'
import { ChooseList } from './choose-list'
import { countsText } from './intake-words'
import { EXAMPLE_LIST } from './list-text'

interface NewListProps {
  /** After one was brought in the explanation steps back. */
  quiet: boolean
  onList: (name: string, text: string) => void
}

/** Where a list comes from, and what was brought in before. */
export function NewList({ quiet, onList }: NewListProps) {
  const desk = useDesk()
  return (
    <View className={desk ? 'flex-row items-start gap-10' : ''}>
      <View className="flex-1 gap-5">
        {quiet ? null : (
          <T>
            {say`A spreadsheet (XLSX or CSV) or address cards (VCF), a line for each part or site: who, where, what sits in which position, when it was fitted, what was read. A day nobody knows stays empty. You see everything before anything is written.`}
          </T>
        )}
        <ChooseList accept=".csv,.tsv,.txt,.xlsx,.vcf,text/csv,text/plain,text/vcard" kinds="CSV, XLSX or VCF" onList={onList}>
          <Button label={say`Save an example list`} onPress={() => saveAs(say`example list.csv`, EXAMPLE_LIST)} />
        </ChooseList>
        <Before />
      </View>
      {desk ? <MayHold /> : null}
    </View>
  )
}

/** Every column a list may have, in the words its headings are matched by. */
function MayHold() {
  return (
    <View className="w-[380px] gap-3 border-l-2 border-line pl-6">
      <T kind="heading" level={2}>
        {say`What a list may hold`}
      </T>
      <T kind="quiet">{say`Any of it, in any order. Headings are matched by what they say; you choose for those that are not.`}</T>
      {INTAKE_GROUPS.map(({ label, fields }) => (
        <View key={label}>
          <T kind="strong">{label}</T>
          <T>{fields.map((field) => INTAKE_LABELS[field]).join(', ')}</T>
        </View>
      ))}
    </View>
  )
}

function Before() {
  const intakes = useQuery({
    queryKey: KEY.intakes,
    queryFn: () => ask(api.intakes.$get()),
    refetchInterval: (query) => (query.state.data?.intakes.some(isUnderWay) ? LOOK_EVERY_MS : false),
  })
  if (intakes.error)
    return <Failed what={say`Earlier lists cannot be shown`} error={intakes.error} onRetry={() => void intakes.refetch()} />
  if (!intakes.data || intakes.data.intakes.length === 0) return null
  return (
    <View>
      <T kind="heading" level={2}>
        {say`Earlier imports`}
      </T>
      {intakes.data.intakes.map((intake) => (
        <Earlier key={intake.id} intake={intake} />
      ))}
    </View>
  )
}

function Earlier({ intake }: { intake: IntakeDto }) {
  const me = useMe()
  const zone = me.data?.firm.timeZone ?? 'UTC'
  return (
    <View className="gap-1 border-t-2 border-line py-3">
      <T kind="strong">{intake.name}</T>
      <T kind="quiet">{`${instantText(intake.at, zone)} · ${intake.personName}${intake.state === 'done' ? ` · ${countsText(intake.counts)}` : ''}`}</T>
      {intake.state === 'done' ? <TakeBack intake={intake} /> : <AtWork intake={intake} />}
    </View>
  )
}

/** Takes a list back, or says that and when it was. */
export function TakeBack({ intake }: { intake: Pick<IntakeDto, 'id' | 'undoneAt' | 'kept'> }) {
  const me = useMe()
  const [working, setWorking] = useState(false)
  const [error, setError] = useState<unknown>(null)
  const undo = async (): Promise<void> => {
    setWorking(true)
    setError(null)
    try {
      await ask(api.intakes[':id'].undo.$post({ param: { id: intake.id } }))
      for (const root of ['sites', 'site', 'due', 'intakes', 'today', 'stage']) void queryClient.invalidateQueries({ queryKey: [root] })
    } catch (failure) {
      setError(failure)
    }
    setWorking(false)
  }
  if (intake.undoneAt !== null)
    return (
      <T role="status">{say`Undone ${instantText(intake.undoneAt, me.data?.firm.timeZone ?? 'UTC')}.${intake.kept.length > 0 ? say` Work was done there meanwhile, so these stay: ${intake.kept.join(', ')}.` : ''}`}</T>
    )
  return (
    <View className="gap-2">
      <View className="self-start">
        <Button label={working ? say`Undoing …` : say`Undo`} disabled={working} onPress={() => void undo()} />
      </View>
      {error ? <Failed what={say`It was not undone`} error={error} /> : null}
    </View>
  )
}
