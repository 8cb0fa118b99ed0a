import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

interface ColumnChoicesProps<F extends string> {
  columns: readonly { heading: string; field: F | null; samples: readonly string[] }[]
  groups: readonly { label: string; options: readonly { value: F; label: string }[] }[]
  onColumns: (columns: (F | null)[]) => void
}

/** Which column of a list holds what: its heading, what stands in it, and the choice. */
export function ColumnChoices<F extends string>({ columns, groups, onColumns }: ColumnChoicesProps<F>) {
  const give = (index: number, field: F | ''): void =>
    // A field belongs to one column: taking it here takes it away there.
    onColumns(columns.map((column, at) => (at === index ? field || null : column.field === field ? null : column.field)))
  return columns.map(({ heading, field, samples }, index) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: columns have no other name than their place
    <View key={index} className="flex-row items-center gap-3 border-t-2 border-line pt-2">
      <View className="min-w-0 flex-1">
        <T kind="strong" numberOfLines={1}>
          {heading || say`Column ${index + 1}`}
        </T>
        <T kind="small" numberOfLines={1}>
          {samples.length > 0 ? samples.join(' · ') : say`empty`}
        </T>
      </View>
      <View className="w-[180px]">
        <Select
          label={say`What “${heading || say`column ${index + 1}`}” holds`}
          none={say`left out`}
          value={field ?? ''}
          groups={groups}
          onChange={(value) => give(index, value)}
        />
      </View>
    </View>
  ))
}
