import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { scanCode } from '../../data/device'
import { FilePick } from '../../ui/file-pick'
import { T } from '../../ui/text'

/** Reads a printed code by the camera; a bar code then says which part it is. */
export function ScanPart({ label, onCode }: { label: string; onCode: (code: string) => void }) {
  const [problem, setProblem] = useState<string | null>(null)
  const scan = async (file: File): Promise<void> => {
    setProblem(null)
    try {
      const code = await scanCode(file)
      if (code === null) setProblem(say`No code could be read on that picture. Type the number off the label.`)
      else onCode(code)
    } catch {
      setProblem(
        say`Codes cannot be read here now: the picture is none this device can open, or the reader is not on it yet. Type the number.`,
      )
    }
  }
  return (
    <View className="gap-1">
      <FilePick label={label} accept="image/*" camera kind="plain" onFile={(file) => void scan(file)} />
      {problem ? (
        <T role="alert" kind="small" className="text-copper-text">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
