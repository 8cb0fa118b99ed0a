import type { SiteDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { ApiProblem, api, ask, fieldError } from '../../data/api'
import { queryClient } from '../../data/queries'
import { useMay } from '../../data/rights'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'
import { MergeSite } from './moving'

type Asking = 'leave' | 'erase' | 'merge' | null

/** What a customer may ask of the firm, and what happens when they leave. Rare, so it stands last and closed. */
export function Customer({ site }: { site: SiteDto }) {
  const [mayEdit, mayExport, mayErase] = [useMay('edit-sites'), useMay('export'), useMay('erase')]
  const router = useRouter()
  const [asking, setAsking] = useState<Asking>(null)
  if (!mayEdit && !mayExport && !mayErase) return null
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`The customer`}
      </T>
      {asking === 'leave' ? <Leave site={site} onCancel={() => setAsking(null)} /> : null}
      {asking === 'erase' ? <Erase site={site} onCancel={() => setAsking(null)} /> : null}
      {asking === 'merge' ? <MergeSite site={site} onDone={() => setAsking(null)} /> : null}
      {asking === null ? (
        <View className="flex-row flex-wrap items-center gap-2">
          {mayEdit ? (
            <Button
              label={say`Let the site rest …`}
              hint={say`From one day to another nothing is planned there`}
              onPress={() => router.push(`/hours/${site.id}`)}
            />
          ) : null}
          {mayEdit ? <Button label={say`Merge with another site …`} onPress={() => setAsking('merge')} /> : null}
          {mayEdit ? <Button label={say`Customer has left …`} onPress={() => setAsking('leave')} /> : null}
          {mayExport ? (
            <a href={`/api/sites/${site.id}/customer`} download className="block">
              <View className="min-h-[48px] items-center justify-center rounded-card border-2 border-line bg-sheet px-4 py-2">
                <T kind="strong">{say`Download their data`}</T>
              </View>
            </a>
          ) : null}
          {mayErase ? <Button label={say`Erase the customer …`} kind="danger" onPress={() => setAsking('erase')} /> : null}
        </View>
      ) : null}
    </View>
  )
}

const said = (error: unknown, otherwise: string): string => (error instanceof ApiProblem ? error.message : otherwise)

function Refusal({ text }: { text: string | null }) {
  return text === null ? null : (
    <T role="alert" kind="strong" className="text-oxblood">
      {text}
    </T>
  )
}

function Leave({ site, onCancel }: { site: SiteDto; onCancel: () => void }) {
  const router = useRouter()
  const [problem, setProblem] = useState<string | null>(null)
  const leave = async (): Promise<void> => {
    setProblem(null)
    try {
      await ask(api.sites[':id'].leave.$post({ param: { id: site.id } }))
      await queryClient.invalidateQueries()
      router.replace('/sites/left')
    } catch (error) {
      setProblem(said(error, say`It could not be saved. Try again.`))
    }
  }
  return (
    <View className="gap-2 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="strong">{say`Has the customer at ${site.name} left?`}</T>
      <T>
        {say`The site leaves Sites, Due and the round, and its planned stops are cancelled. What was done there stays in the book. Under Sites → Customers who left it can be brought back.`}
      </T>
      <Refusal text={problem} />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Yes, they have left`} kind="act" onPress={() => void leave()} />
        <Button label={say`Cancel`} onPress={onCancel} />
      </View>
    </View>
  )
}

function Erase({ site, onCancel }: { site: SiteDto; onCancel: () => void }) {
  const router = useRouter()
  const [name, setName] = useState('')
  const [refusal, setRefusal] = useState<unknown>(null)
  const erase = async (): Promise<void> => {
    setRefusal(null)
    try {
      await ask(api.sites[':id'].erase.$post({ param: { id: site.id }, json: { name } }))
      await queryClient.invalidateQueries()
      router.replace('/sites')
    } catch (error) {
      setRefusal(error)
    }
  }
  const field = fieldError(refusal, 'name')
  return (
    <View className="gap-2 rounded-card border-2 border-oxblood bg-sheet p-4">
      <T kind="strong">{say`This cannot be undone.`}</T>
      <T>
        {say`Name, contact, telephone, e-mail, address, position, access notes, everything typed in notes and all photos of this site are erased for good. The work stays: readings, parts and dates, under “Erased customer”. That you did it is recorded.`}
      </T>
      <Field label={say`Type the name of the site: ${site.name}`} value={name} onChangeText={setName} error={field} />
      <Refusal text={refusal !== null && field === undefined ? said(refusal, say`It could not be erased. Nothing was changed.`) : null} />
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Erase for good`} kind="danger" disabled={name.trim() === ''} onPress={() => void erase()} />
        <Button label={say`Cancel`} onPress={onCancel} />
      </View>
    </View>
  )
}
