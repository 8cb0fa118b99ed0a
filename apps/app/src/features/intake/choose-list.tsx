import { say } from '@evenround/core/words'
import { type ReactNode, useState } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { FilePick } from '../../ui/file-pick'
import { T } from '../../ui/text'
import { listOfFile } from './list-file'

interface ChooseListProps {
  /** What the browser offers to choose from. */
  accept: string
  /** The kinds of file, as people call them. */
  kinds: string
  onList: (name: string, text: string) => void
  /** What can be done beside it. */
  children?: ReactNode
}

/** A list out of a file, or pasted. */
export function ChooseList({ accept, kinds, onList, children }: ChooseListProps) {
  const [pasted, setPasted] = useState('')
  const [problem, setProblem] = useState<string | null>(null)
  const read = async (file: File): Promise<void> => {
    setProblem(null)
    try {
      onList(file.name, await listOfFile(file))
    } catch {
      setProblem(say`${file.name} cannot be read. Save it as ${kinds} and choose it again.`)
    }
  }
  return (
    <View className="gap-5">
      <FilePick label={say`Choose a file`} accept={accept} onFile={(file) => void read(file)} />
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <Field label={say`Or paste its lines, headings first`} value={pasted} onChangeText={setPasted} multiline spellCheck={false} />
      <View className="flex-row flex-wrap gap-3">
        <Button label={say`Check it`} disabled={pasted.trim() === ''} onPress={() => onList(say`Pasted list`, pasted)} />
        {children}
      </View>
    </View>
  )
}
