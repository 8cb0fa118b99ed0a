import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { canScan, scanCode } from '../../data/device'
import { FilePick } from '../../ui/file-pick'
import { T } from '../../ui/text'

/** Reads a printed code by the camera, where this browser can; a bar code then says which part it is. */
export function ScanPart({ label, onCode }: { label: string; onCode: (code: string) => void }) {
  const [unread, setUnread] = useState(false)
  if (!canScan()) return null
  const scan = async (file: File): Promise<void> => {
    const code = await scanCode(file).catch(() => null)
    setUnread(code === null)
    if (code !== null) onCode(code)
  }
  return (
    <View className="gap-1">
      <FilePick label={label} accept="image/*" camera kind="plain" onFile={(file) => void scan(file)} />
      {unread ? (
        <T role="alert" kind="small" className="text-copper-text">
          {say`No code could be read on that picture. Type the number off the label.`}
        </T>
      ) : null}
    </View>
  )
}
