import type { BroughtInDto } from '@evenround/contract/export'
import { numberText, say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, sendFile } from '../../data/api'
import { FilePick } from '../../ui/file-pick'
import { Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** A firm that moves here: its whole file, taken out of another installation. */
export function SetUpByFile({ code }: { code: string }) {
  const [busy, setBusy] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const [brought, setBrought] = useState<BroughtInDto | null>(null)
  const bring = async (file: File): Promise<void> => {
    setProblem(null)
    if (code.trim() === '') return setProblem(say`Type the code that the start printed first.`)
    setBusy(true)
    try {
      setBrought(await sendFile<BroughtInDto>('/api/setup/file', file, { 'x-setup-code': code }))
    } catch (error) {
      setProblem(error instanceof ApiProblem ? error.message : say`The file could not be imported. Try again.`)
    }
    setBusy(false)
  }
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4" aria-live="polite">
      <T kind="heading" level={2}>
        {say`Or import your firm`}
      </T>
      <T kind="quiet">
        {say`The ZIP that another installation made under The firm → The firm’s data. Everything comes back as it was; each owner chooses a new password.`}
      </T>
      {brought ? (
        <>
          <T kind="strong">{say`${brought.firm} is here: ${numberText(brought.rows)} rows, ${numberText(brought.pictures)} photos.`}</T>
          {brought.owners.map(({ name, email, token }) => (
            <Link key={token} href={`/welcome?link=${token}`}>
              <T kind="strong" className="underline">{say`Choose a password as ${name} (${email})`}</T>
            </Link>
          ))}
        </>
      ) : busy ? (
        <Waiting what={say`Importing the file`} />
      ) : (
        <FilePick label={say`Choose the firm’s file`} accept=".zip,application/zip" kind="plain" onFile={(file) => void bring(file)} />
      )}
      {problem ? (
        <T kind="strong" role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
