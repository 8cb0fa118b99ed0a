import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Notice } from '../../ui/notice'
import { saveAs } from '../../ui/save-as'
import { T } from '../../ui/text'
import { TextLink } from '../../ui/text-link'

interface BroughtInProps {
  name: string
  done: { left: number; mend: string | null }
}

/** It is in: where to look, and what is left to mend. */
export function BroughtIn({ name, done }: BroughtInProps) {
  const { left, mend } = done
  return (
    <Notice tone="good" title={`${name} is brought in`} live>
      <T>
        {left === 0
          ? 'Every line of it. Forecasts are being made.'
          : `${left === 1 ? 'One line is' : `${left.toLocaleString('en-GB')} lines are`} left: mend them in a file of their own and bring that in.`}
      </T>
      <View className="flex-row flex-wrap items-center gap-3 pt-2">
        {mend ? <Button label="Save the lines to mend" onPress={() => saveAs(`to mend - ${name}`, mend)} /> : null}
        <TextLink href="/due?until=all" label="What is due" />
        <TextLink href="/sites" label="Sites" />
      </View>
    </Notice>
  )
}
