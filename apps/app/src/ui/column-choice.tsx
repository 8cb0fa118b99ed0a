import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { Button } from './button'
import { Tick } from './choice'

export interface ChoosableColumn {
  id: string
  label: string
  /** Never left out. */
  fixed?: boolean
}

/** Which columns of a table are shown: a button that opens a tick for each, and the ticks. */
export function useColumnChoice<C extends ChoosableColumn>(
  columns: readonly C[],
  isShown: (column: C) => boolean,
  onChange: (id: string, on: boolean) => void,
) {
  const [open, setOpen] = useState(false)
  return {
    button: <Button label={open ? say`Close the columns` : say`Columns`} onPress={() => setOpen(!open)} />,
    ticks: open ? (
      <View role="group" aria-label={say`Columns shown`} className="flex-row flex-wrap gap-2">
        {columns
          .filter(({ fixed }) => fixed !== true)
          .map((column) => (
            <Tick key={column.id} label={column.label} value={isShown(column)} onChange={(on) => onChange(column.id, on)} />
          ))}
      </View>
    ) : null,
  }
}
