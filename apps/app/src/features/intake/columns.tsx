import type { IntakePreview } from '@evenround/contract/intake'
import { type DateOrder, INTAKE_GROUPS, INTAKE_LABELS, type IntakeField } from '@evenround/core/intake'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { Choice } from '../../ui/choice'
import { T } from '../../ui/text'
import { ColumnChoices } from './column-choices'

const ORDERS: readonly { value: DateOrder; label: string }[] = [
  { value: 'day-first', label: say`3/6 is 3 June` },
  { value: 'month-first', label: say`3/6 is 6 March` },
]

const GROUPS = INTAKE_GROUPS.map(({ label, fields }) => ({
  label,
  options: fields.map((value) => ({ value, label: INTAKE_LABELS[value] })),
}))

interface ColumnsProps {
  preview: IntakePreview
  onColumns: (columns: (IntakeField | null)[]) => void
  onOrder: (order: DateOrder) => void
}

/** Which column of the list holds what, guessed from its heading and put right by hand. */
export function Columns({ preview, onColumns, onOrder }: ColumnsProps) {
  const { columns, order, orderTold } = preview
  const dated = columns.some(({ field }) => field === 'fittedOn' || field === 'readOn')
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`Its columns`}
      </T>
      {preview.remembered ? <T kind="quiet">{say`As chosen for “${preview.remembered}”, which had the same headings.`}</T> : null}
      <ColumnChoices columns={columns} groups={GROUPS} onColumns={onColumns} />
      {dated ? (
        <View className="gap-1 pt-2">
          <Choice label={say`Days written with numbers`} value={order} options={ORDERS} onChange={onOrder} />
          <T kind="small">
            {orderTold
              ? say`Some day of this list fits one way only.`
              : say`No day of this list tells which way: choose as the list was written.`}
          </T>
        </View>
      ) : null}
    </View>
  )
}
