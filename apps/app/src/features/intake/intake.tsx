import type { IntakePreview } from '@evenround/contract/intake'
import type { DateOrder, IntakeField } from '@evenround/core/intake'
import { many, say } from '@evenround/core/words'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { ApiProblem, api, ask } from '../../data/api'
import { useMe } from '../../data/queries'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { saveAs } from '../../ui/save-as'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { BroughtIn } from './brought-in'
import { Columns } from './columns'
import { linesText } from './intake-words'
import { linesToCorrect } from './list-text'
import { NewList } from './new-list'
import { Preview } from './preview'

export interface List {
  /** Made once a list, so that a repeated send is the same one. */
  id: string
  name: string
  text: string
}
/** A list that was handed in. */
export interface Sent {
  id: string
  name: string
  /** The lines that cannot come in, as a file. */
  mend: string | null
}
interface Choices {
  columns?: (IntakeField | null)[]
  order?: DateOrder
}

/** Brings in a list of sites, systems, fitted parts and readings: choose, look, bring in, take back. */
export function Intake() {
  const me = useMe()
  const [list, setList] = useState<List | null>(null)
  const [sent, setSent] = useState<Sent | null>(null)
  const back = <BackLink href="/sites" label={say`Sites`} />
  if (me.data && !me.data.rights.includes('edit-sites'))
    return (
      <Screen over={back} title={say`Import a list`}>
        <T>{say`An owner or a planner can import lists.`}</T>
      </Screen>
    )
  if (list === null || sent !== null)
    return (
      <Screen over={back} title={say`Import a list`} wide>
        {sent ? <BroughtIn key={sent.id} sent={sent} /> : null}
        <NewList
          quiet={sent !== null}
          onList={(name, text) => {
            setSent(null)
            setList({ id: uuidv7(), name, text })
          }}
        />
      </Screen>
    )
  return <LookThrough list={list} onLeave={() => setList(null)} onSent={setSent} />
}

interface LookThroughProps {
  list: List
  onLeave: () => void
  onSent: (sent: Sent) => void
}

function LookThrough({ list, onLeave, onSent }: LookThroughProps) {
  const desk = useDesk()
  const [choices, setChoices] = useState<Choices>({})
  const [sending, setSending] = useState(false)
  const [refusal, setRefusal] = useState<unknown>(null)
  const preview = useQuery({
    queryKey: ['intake-check', list.id, choices],
    queryFn: () => ask(api.intakes.check.$post({ json: { name: list.name, text: list.text, ...choices } })),
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
  })
  const found = preview.data
  const bringIn = async (from: IntakePreview): Promise<void> => {
    setSending(true)
    setRefusal(null)
    try {
      const columns = from.columns.map(({ field }) => field)
      await ask(api.intakes.$post({ json: { ...list, columns, order: from.order } }))
      onSent({ id: list.id, name: list.name, mend: from.problems.length > 0 ? linesToCorrect(list.text, from.problems) : null })
    } catch (error) {
      setRefusal(error)
    }
    setSending(false)
  }
  const refused = preview.error instanceof ApiProblem && preview.error.code === 'BAD_INPUT' ? preview.error : null
  return (
    <Screen
      over={<BackLink href="/sites" label={say`Sites`} />}
      title={list.name}
      wide
      bottom={
        <>
          <Button label={say`Another list`} onPress={onLeave} />
          <Button
            label={sending ? say`Importing …` : found ? say`Import ${many(found.good, 'line', 'lines')}` : say`Import`}
            kind="act"
            grow
            testID="bring-in"
            disabled={!found || found.good === 0 || sending || preview.isFetching}
            onPress={() => found && void bringIn(found)}
          />
        </>
      }
    >
      {refusal ? <Failed what={say`Not imported: nothing was changed`} error={refusal} /> : null}
      {refused ? (
        <Failed what={say`This list cannot be read`} error={new Error(refused.fields[0]?.message ?? refused.message)} onRetry={onLeave} />
      ) : found ? (
        <View className="gap-5">
          <T kind="heading" level={2} role="status">
            {linesText(found.lines, found.bad)}
          </T>
          {/* Under a thumb what is wrong comes before how it was read. */}
          <View className={desk ? 'flex-row-reverse items-start gap-8' : 'gap-6'}>
            <View className={desk ? 'flex-1' : ''}>
              <Preview preview={found} onSave={() => saveAs(say`to correct - ${list.name}`, linesToCorrect(list.text, found.problems))} />
            </View>
            <View className={desk ? 'w-[420px]' : ''}>
              <Columns
                preview={found}
                onColumns={(columns) => setChoices((before) => ({ ...before, columns }))}
                onOrder={(order) => setChoices((before) => ({ ...before, order }))}
              />
            </View>
          </View>
        </View>
      ) : preview.error ? (
        <Failed what={say`The list cannot be looked through`} error={preview.error} onRetry={() => void preview.refetch()} />
      ) : (
        <Waiting what={say`Reading the list`} />
      )}
      <T kind="small">{say`Nothing is written before you import it; afterwards it can be undone.`}</T>
    </Screen>
  )
}
