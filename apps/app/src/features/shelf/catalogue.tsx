import type { KindDto } from '@evenround/contract/kinds'
import type { PartDto } from '@evenround/contract/shelf'
import { mediumName } from '@evenround/core/catalogue'
import { say } from '@evenround/core/words'
import { useMemo, useState } from 'react'
import { View } from 'react-native'
import { useLocal } from '../../data/local'
import { useUnits } from '../../data/units'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { EditMark } from '../../ui/edit-mark'
import { money } from '../../ui/format'
import { later } from '../../ui/later'
import { Empty } from '../../ui/states'
import { Table, type TableColumn, type TableView, USUAL_VIEW } from '../../ui/table'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'
import { NewPart } from './new-part'
import { ratedFigures, ratedWords } from './rated-words'

const PartForm = later(async () => (await import('../../parts/forms')).PartForm)

interface CatalogueProps {
  parts: readonly PartDto[]
  kinds: readonly KindDto[]
  currency: string
  mayEdit: boolean
}

/** The firm's parts: a table with its form beside it at a desk, a list on a phone. */
export function Catalogue({ parts, kinds, currency, mayEdit }: CatalogueProps) {
  const desk = useDesk()
  const [editing, setEditing] = useState<string | null>(null)
  const [adding, setAdding] = useState(false)
  const done = (): void => {
    setEditing(null)
    setAdding(false)
  }
  const chosen = parts.find(({ id }) => id === editing)
  const form = chosen ? (
    <PartForm key={chosen.id} part={chosen} parts={parts} currency={currency} onDone={done} />
  ) : adding ? (
    <NewPart currency={currency} kinds={kinds} onDone={done} />
  ) : null
  const edit = mayEdit
    ? (id: string): void => {
        setAdding(false)
        setEditing(id)
      }
    : undefined
  const tools =
    mayEdit && !adding ? (
      <View className="flex-row flex-wrap items-center gap-3">
        <Button
          label={say`Add a part`}
          onPress={() => {
            setEditing(null)
            setAdding(true)
          }}
        />
        <TextLink href="/parts-list" label={say`Import a parts list`} />
      </View>
    ) : null
  return (
    <View className="gap-3">
      {parts.length === 0 ? (
        <Empty title={say`No part yet`} text={say`Add the parts you fit: forecasts, run sheets and the van list speak of them.`} />
      ) : null}
      {desk && parts.length > 0 ? null : tools}
      {desk ? (
        <View className="flex-row items-start gap-6">
          <View className="flex-1">
            {parts.length > 0 ? (
              <PartsTable parts={parts} currency={currency} chosen={editing} onChoose={edit} narrow={form !== null} tools={tools} />
            ) : null}
          </View>
          {form ? <View className="w-[400px]">{form}</View> : null}
        </View>
      ) : (
        <>
          {adding ? form : null}
          <PartsList parts={parts} currency={currency} editing={editing} form={form} onEdit={edit} />
        </>
      )}
    </View>
  )
}

interface PartsTableProps {
  parts: readonly PartDto[]
  currency: string
  chosen: string | null
  onChoose: ((id: string) => void) | undefined
  /** Its form stands beside it. */
  narrow: boolean
  tools: React.ReactNode
}

const DETAILS = ['maker', 'supplier', 'barcode', 'equivalents']

function PartsTable({ parts, currency, chosen, onChoose, narrow, tools }: PartsTableProps) {
  const units = useUnits()
  const [view, setView] = useLocal<TableView>('even-round.table.parts', USUAL_VIEW)
  const columns = useMemo((): TableColumn<PartDto>[] => {
    const numberOf = (id: string): string => parts.find((part) => part.id === id)?.partNumber ?? ''
    const all: TableColumn<PartDto>[] = [
      {
        id: 'partNumber',
        label: say`Part number`,
        value: ({ partNumber }) => partNumber,
        show: ({ partNumber }) => <T kind="strong">{partNumber}</T>,
        share: 3,
        fixed: true,
      },
      { id: 'name', label: say`Name`, value: ({ name }) => name, share: 4 },
      { id: 'medium', label: say`Medium`, value: ({ media }) => mediumName(media), share: 3 },
      { id: 'rated', label: say`Rated`, value: ({ rated }) => ratedFigures(rated, units) ?? say`as its medium`, share: 4 },
      { id: 'maker', label: say`Maker`, value: ({ maker }) => maker || null, share: 3 },
      { id: 'supplier', label: say`Supplier`, value: ({ supplier }) => supplier || null, share: 2 },
      { id: 'barcode', label: say`Bar code`, value: ({ barcode }) => barcode || null, share: 2 },
      { id: 'equivalents', label: say`Stands in for`, value: ({ equivalents }) => equivalents.map(numberOf).join(', ') || null, share: 3 },
      {
        id: 'price',
        label: say`Price`,
        value: ({ priceMinor }) => priceMinor,
        show: ({ priceMinor }) => <T className="text-right">{money(priceMinor, currency)}</T>,
        share: 2,
        figures: true,
      },
    ]
    return narrow ? all.filter(({ id }) => !DETAILS.includes(id)) : all
  }, [parts, currency, units, narrow])
  return (
    <Table
      label={say`Parts`}
      rows={parts}
      keyOf={({ id }) => id}
      columns={columns}
      view={view}
      onView={setView}
      chosen={chosen}
      onChoose={onChoose}
      tools={tools}
    />
  )
}

interface PartsListProps {
  parts: readonly PartDto[]
  currency: string
  editing: string | null
  form: React.ReactNode
  onEdit: ((id: string) => void) | undefined
}

function PartsList({ parts, currency, editing, form, onEdit }: PartsListProps) {
  const units = useUnits()
  const numberOf = (id: string): string => parts.find((part) => part.id === id)?.partNumber ?? ''
  return (
    <View>
      {parts.map((part) =>
        part.id === editing ? (
          <View key={part.id}>{form}</View>
        ) : (
          <View key={part.id} className="flex-row items-center gap-3 border-t-2 border-line py-2">
            <View className="flex-1">
              <T kind="strong">{`${part.partNumber} · ${part.name}`}</T>
              <T kind="quiet">
                {[part.maker, mediumName(part.media), ratedWords(part.rated, units), part.supplier].filter(Boolean).join(' · ')}
              </T>
              {part.equivalents.length > 0 ? (
                <T kind="small">{say`stands in for, and is stood in for by: ${part.equivalents.map(numberOf).join(', ')}`}</T>
              ) : null}
            </View>
            <T>{money(part.priceMinor, currency)}</T>
            {onEdit ? <EditMark what={part.partNumber} onPress={() => onEdit(part.id)} /> : null}
          </View>
        ),
      )}
    </View>
  )
}
