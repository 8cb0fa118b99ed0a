import type { FirmDto } from '@evenround/contract/firm'
import { LANGUAGES, type Language, say } from '@evenround/core/words'
import { cautionPairs } from '@evenround/core/words/cautions'
import { useQuery } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { catalogueOf } from '../../data/language'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { instantText } from '../../ui/format'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'
import { useFirmAct } from './act'

type Translated = Exclude<Language, 'en'>
const TRANSLATED = LANGUAGES.filter((language): language is Translated => language !== 'en')

/** Cautions and holds in other languages: the English stands beside them until somebody competent has read them all. */
export function Cautions({ firm, mayEdit }: { firm: FirmDto; mayEdit: boolean }) {
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`Cautions in other languages`}
      </T>
      <T kind="quiet">
        {say`A wrong word in a caution can hurt somebody. Until a person who knows the trade and the language has read them all, the English stands beside each.`}
      </T>
      {TRANSLATED.map((language) => (
        <OneLanguage key={language} firm={firm} language={language} mayEdit={mayEdit} />
      ))}
    </View>
  )
}

function OneLanguage({ firm, language, mayEdit }: { firm: FirmDto; language: Translated; mayEdit: boolean }) {
  const found = useQuery({ queryKey: ['catalogue', language], queryFn: () => catalogueOf(language), staleTime: Number.POSITIVE_INFINITY })
  const [open, setOpen] = useState(false)
  if (found.error) return <Failed what={say`The cautions cannot be shown`} error={found.error} onRetry={() => void found.refetch()} />
  if (!found.data) return null
  const catalogue = found.data
  const mark = catalogue.cautionsMark
  const pairs = cautionPairs(catalogue)
  const signed = firm.cautionsSigned?.[language]
  const good = signed?.mark === mark
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="strong">{catalogue.name}</T>
      <T>
        {signed === undefined
          ? say`Not signed off: the English stands beside every caution.`
          : good
            ? say`Signed off: read by ${signed.reader}; entered by ${signed.by}, ${instantText(signed.at, firm.timeZone)}.`
            : say`Some of them have changed since ${signed.reader} read them: the English stands beside them again.`}
      </T>
      <View className="flex-row flex-wrap gap-2">
        <Button label={open ? say`Hide them` : say`Read all ${pairs.length}`} onPress={() => setOpen(!open)} />
        {good && mayEdit ? <TakeBack language={language} /> : null}
      </View>
      {open ? (
        <View className="gap-3">
          {pairs.map(({ english, own }) => (
            <View key={english} className="gap-1 border-t-2 border-line pt-2">
              <T>{own}</T>
              <T kind="small">{english}</T>
            </View>
          ))}
          {mayEdit && !good ? <SignOff language={language} mark={mark} /> : null}
        </View>
      ) : null}
    </View>
  )
}

/** At the end of the list, not above it: who signs has passed every line. */
function SignOff({ language, mark }: { language: Translated; mark: string }) {
  const [reader, setReader] = useState('')
  const { problem, setProblem, act } = useFirmAct()
  const sign = (): void => {
    if (reader.trim() === '') setProblem(say`Say who read them`)
    else void act(() => ask(api.firm.cautions[':language'].$put({ param: { language }, json: { mark, reader: reader.trim() } })))
  }
  return (
    <View className="gap-2">
      <Field
        label={say`Who has read them all`}
        hint={say`Name and trade: they answer for the words`}
        value={reader}
        onChangeText={setReader}
        error={problem ?? undefined}
      />
      <Button label={say`Sign off these cautions`} kind="act" onPress={sign} />
    </View>
  )
}

function TakeBack({ language }: { language: Translated }) {
  const { problem, act } = useFirmAct()
  return (
    <View className="gap-1">
      <Button
        label={say`Show the English again`}
        onPress={() => void act(() => ask(api.firm.cautions[':language'].$delete({ param: { language } })))}
      />
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
    </View>
  )
}
