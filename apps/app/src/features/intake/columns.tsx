import type { IntakePreview } from '@evenround/contract/intake'
import { type DateOrder, INTAKE_GROUPS, INTAKE_LABELS, type IntakeField } from '@evenround/core/intake'
import { View } from 'react-native'
import { Choice } from '../../ui/choice'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

const ORDERS: readonly { value: DateOrder; label: string }[] = [
  { value: 'day-first', label: '3/6 is 3 June' },
  { value: 'month-first', label: '3/6 is 6 March' },
]

interface ColumnsProps {
  preview: IntakePreview
  onColumns: (columns: (IntakeField | null)[]) => void
  onOrder: (order: DateOrder) => void
}

/** Which column of the list holds what, guessed from its heading and put right by hand. */
export function Columns({ preview, onColumns, onOrder }: ColumnsProps) {
  const { columns, order, orderTold } = preview
  const dated = columns.some(({ field }) => field === 'fittedOn' || field === 'readOn')
  const give = (index: number, field: IntakeField | ''): void =>
    // A field belongs to one column: taking it here takes it away there.
    onColumns(columns.map((column, at) => (at === index ? field || null : column.field === field ? null : column.field)))
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        Its columns
      </T>
      {preview.remembered ? <T kind="quiet">{`As chosen for “${preview.remembered}”, which had the same headings.`}</T> : null}
      {columns.map(({ heading, field, samples }, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other name than their place
        <View key={index} className="flex-row items-center gap-3 border-t-2 border-line pt-2">
          <View className="min-w-0 flex-1">
            <T kind="strong" numberOfLines={1}>
              {heading || `Column ${index + 1}`}
            </T>
            <T kind="small" numberOfLines={1}>
              {samples.length > 0 ? samples.join(' · ') : 'empty'}
            </T>
          </View>
          <View className="w-[180px]">
            <Select
              label={`What “${heading || `column ${index + 1}`}” holds`}
              none="left out"
              value={field ?? ''}
              groups={INTAKE_GROUPS.map(({ label, fields }) => ({
                label,
                options: fields.map((value) => ({ value, label: INTAKE_LABELS[value] })),
              }))}
              onChange={(value) => give(index, value)}
            />
          </View>
        </View>
      ))}
      {dated ? (
        <View className="gap-1 pt-2">
          <Choice label="Days written with numbers" value={order} options={ORDERS} onChange={onOrder} />
          <T kind="small">
            {orderTold
              ? 'Some day of this list fits one way only.'
              : 'No day of this list tells which way: choose as the list was written.'}
          </T>
        </View>
      ) : null}
    </View>
  )
}
