import type { PartsPreview } from '@evenround/contract/parts-list'
import { PARTS_FIELDS, PARTS_LABELS, type PartsField } from '@evenround/core/intake'
import { many, numberText, say } from '@evenround/core/words'
import { keepPreviousData, useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, api, ask } from '../../data/api'
import { KEY, queryClient, useMe } from '../../data/queries'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { Notice } from '../../ui/notice'
import { saveAs } from '../../ui/save-as'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { ChooseList } from './choose-list'
import { ColumnChoices } from './column-choices'
import { linesText } from './intake-words'
import { LineProblems } from './line-problems'
import { linesToCorrect } from './list-text'

const GROUPS = [{ label: say`Part`, options: PARTS_FIELDS.map((value) => ({ value, label: PARTS_LABELS[value] })) }]

interface List {
  name: string
  text: string
}
interface Done {
  added: number
  changed: number
  left: number
}

/** Brings in a supplier's list: part numbers, bar codes, prices; what is in the catalogue already is brought up to date. */
export function PartsList() {
  const me = useMe()
  const [list, setList] = useState<List | null>(null)
  const [done, setDone] = useState<Done | null>(null)
  const back = <BackLink href="/shelf?show=parts" label={say`Shelf`} />
  if (me.data && !me.data.rights.includes('edit-catalogue'))
    return (
      <Screen over={back} title={say`Import a parts list`}>
        <T>{say`An owner or a planner can import lists.`}</T>
      </Screen>
    )
  if (list === null)
    return (
      <Screen over={back} title={say`Import a parts list`}>
        {done ? (
          <Notice tone="good" title={say`The catalogue is up to date`} live>
            <T>{say`${many(done.added, 'part', 'parts')} added, ${numberText(done.changed)} changed.${done.left > 0 ? say` ${many(done.left, 'line is', 'lines are')} left to correct.` : ''}`}</T>
            <TextLink href="/shelf?show=parts" label={say`See the catalogue`} />
          </Notice>
        ) : null}
        <Choose
          onList={(chosen) => {
            setDone(null)
            setList(chosen)
          }}
        />
      </Screen>
    )
  return (
    <LookThrough
      list={list}
      onLeave={() => setList(null)}
      onDone={(what) => {
        setDone(what)
        setList(null)
      }}
    />
  )
}

function Choose({ onList }: { onList: (list: List) => void }) {
  return (
    <View className="gap-5">
      <T>
        {say`A spreadsheet (XLSX or CSV) from your supplier or your own, a line for each part: part number, what it is, price; bar code, supplier and ratings where they stand there. A part you have already gets its new price, bar code and names; its ratings stay.`}
      </T>
      <ChooseList accept=".csv,.tsv,.txt,.xlsx,text/csv,text/plain" kinds="CSV or XLSX" onList={(name, text) => onList({ name, text })} />
    </View>
  )
}

function LookThrough({ list, onLeave, onDone }: { list: List; onLeave: () => void; onDone: (done: Done) => void }) {
  const desk = useDesk()
  const [columns, setColumns] = useState<(PartsField | null)[] | undefined>(undefined)
  const [sending, setSending] = useState(false)
  const [refusal, setRefusal] = useState<unknown>(null)
  const json = { text: list.text, ...(columns ? { columns } : {}) }
  const preview = useQuery({
    queryKey: ['parts-list-check', list, columns],
    queryFn: () => ask(api.parts.list.check.$post({ json })),
    placeholderData: keepPreviousData,
    gcTime: 60_000,
  })
  const found = preview.data
  const bringIn = async (from: PartsPreview): Promise<void> => {
    setSending(true)
    setRefusal(null)
    try {
      const done = await ask(api.parts.list.$post({ json: { text: list.text, columns: from.columns.map(({ field }) => field) } }))
      await queryClient.invalidateQueries({ queryKey: KEY.shelf })
      onDone(done)
    } catch (error) {
      setRefusal(error)
      setSending(false)
    }
  }
  const refused = preview.error instanceof ApiProblem && preview.error.code === 'BAD_INPUT' ? preview.error : null
  const nothing = found !== undefined && found.added + found.changed === 0
  return (
    <Screen
      over={<BackLink href="/shelf?show=parts" label={say`Shelf`} />}
      title={list.name}
      wide
      bottom={
        <>
          <Button label={say`Another list`} onPress={onLeave} />
          <Button
            label={sending ? say`Importing …` : say`Import it`}
            kind="act"
            grow
            disabled={!found || nothing || sending || preview.isFetching}
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
            {linesText(found.lines, found.problems.length)}
          </T>
          <T>
            {nothing
              ? say`Everything in it is in the catalogue already.`
              : say`It adds ${many(found.added, 'part', 'parts')} and changes ${numberText(found.changed)}.${found.same > 0 ? say` ${many(found.same, 'line says', 'lines say')} what stands already.` : ''}`}
          </T>
          <View className={desk ? 'flex-row-reverse items-start gap-8' : 'gap-6'}>
            <View className={`gap-5 ${desk ? 'flex-1' : ''}`}>
              <LineProblems
                problems={found.problems}
                onSave={() => saveAs(say`to correct - ${list.name}`, linesToCorrect(list.text, found.problems))}
              />
              <Parts title={say`New`} parts={found.parts.filter(({ isNew }) => isNew)} more={found.added} />
              <Parts title={say`Changed`} parts={found.parts.filter(({ isNew }) => !isNew)} more={found.changed} />
              {found.notes.map(({ line, notes }) => (
                <T key={line} kind="quiet">{say`Line ${line}: ${notes.join('; ')}`}</T>
              ))}
            </View>
            <View className={`gap-3 ${desk ? 'w-[420px]' : ''}`}>
              <T kind="heading" level={2}>
                {say`Its columns`}
              </T>
              <ColumnChoices columns={found.columns} groups={GROUPS} onColumns={setColumns} />
            </View>
          </View>
        </View>
      ) : preview.error ? (
        <Failed what={say`The list cannot be looked through`} error={preview.error} onRetry={() => void preview.refetch()} />
      ) : (
        <Waiting what={say`Reading the list`} />
      )}
    </Screen>
  )
}

function Parts({ title, parts, more }: { title: string; parts: PartsPreview['parts']; more: number }) {
  if (parts.length === 0) return null
  return (
    <View>
      <T kind="heading" level={2}>
        {title}
      </T>
      {parts.map(({ line, text }) => (
        <T key={line} className="border-t-2 border-line py-2">
          {text}
        </T>
      ))}
      {more > parts.length ? <T kind="small">{say`and ${numberText(more - parts.length)} more`}</T> : null}
    </View>
  )
}
