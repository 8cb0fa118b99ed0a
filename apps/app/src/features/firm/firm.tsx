import type { FirmDto, PersonDto, Schools } from '@evenround/contract/firm'
import { say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import * as z from 'zod/mini'
import { api, ask } from '../../data/api'
import { KEY, queryClient, useMe, usePeople } from '../../data/queries'
import { FormChoice, FormEnd } from '../../parts/forms/form-fields'
import { useSavedForm } from '../../parts/forms/saved-form'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { Screen } from '../../ui/screen'
import { Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { Backups } from './backups'
import { Cautions } from './cautions'
import { Mailbox } from './mailbox'
import { NewPerson, PersonCard } from './people'
import { SCHOOL_QUESTIONS } from './school-words'
import { SecondRule } from './second-rule'
import { UnitsForm } from './units-form'

/** The firm: where practitioners differ, what it does, and who works here. */
export function FirmScreen() {
  const me = useMe()
  const desk = useDesk()
  // Kept above the form, which begins anew with every version of the firm.
  const [message, setMessage] = useState<Message | null>(null)
  const back = <BackLink href="/me" label={say`Settings`} />
  if (!me.data)
    return (
      <Screen over={back} title={say`The firm`}>
        <Waiting />
      </Screen>
    )
  const { firm, rights } = me.data
  return (
    <Screen over={back} title={firm.name} wide>
      <View className={desk ? 'flex-row items-start gap-10' : 'gap-6'}>
        <View className={`gap-4 ${desk ? 'flex-1' : ''}`}>
          <Further href="/times" label={say`Working times, days off, what the round is planned by`} />
          <Further href="/rules" label={say`The day to change: contract, label or evidence`} />
          {rights.includes('export-firm') ? <Further href="/firm-data" label={say`The firm’s data: everything in one file`} /> : null}
          {rights.includes('export-firm') ? <Backups /> : null}
          <SchoolsForm
            key={firm.version}
            firm={firm}
            mayEdit={rights.includes('change-schools')}
            message={message}
            onMessage={setMessage}
          />
        </View>
        <View className={`gap-6 ${desk ? 'flex-1' : ''}`}>
          {rights.includes('manage-people') ? <People /> : null}
          {rights.includes('manage-people') ? <SecondRule key={`second${firm.version}`} firm={firm} /> : null}
          <UnitsForm key={`units${firm.version}`} firm={firm} mayEdit={rights.includes('change-schools')} />
          <Cautions firm={firm} mayEdit={rights.includes('change-schools')} />
          {rights.includes('manage-people') ? <Mailbox /> : null}
        </View>
      </View>
    </Screen>
  )
}

function Further({ href, label }: { href: '/times' | '/rules' | '/firm-data'; label: string }) {
  return (
    <Link href={href} asChild>
      <Pressable className="min-h-[56px] justify-center rounded-card border-2 border-line bg-sheet px-4">
        <T kind="strong">{label}</T>
      </Pressable>
    </Link>
  )
}

interface Message {
  text: string
  bad: boolean
}
interface SchoolsFormProps {
  firm: FirmDto
  mayEdit: boolean
  message: Message | null
  onMessage: (message: Message) => void
}

const choiceOf = (schools: Schools): Schools =>
  Object.fromEntries(SCHOOL_QUESTIONS.map(({ key, options }) => [key, schools[key] ?? options[0]?.value])) as Schools
// Each question offers nothing but what the firm can be.
const schoolsForm = z.custom<Schools>()

function SchoolsForm({ firm, mayEdit, message, onMessage }: SchoolsFormProps) {
  const before = choiceOf(firm.schools)
  const { control, form, submit, problem, busy } = useSavedForm({
    schema: schoolsForm,
    values: before,
    version: firm.version,
    onTheirs: () => onMessage({ text: say`Somebody changed the firm meanwhile; what stands now is shown. Choose again.`, bad: true }),
    save: async (chosen, version) => {
      // What nobody touched stays as the firm has it, also where it was never asked.
      const touched = Object.entries(chosen).filter(([key, value]) => value !== before[key as keyof Schools])
      const json = { version, name: firm.name, gallon: firm.gallon, schools: { ...firm.schools, ...Object.fromEntries(touched) } }
      await ask(api.firm.$put({ json })).finally(() => queryClient.invalidateQueries())
      onMessage({ text: say`Saved. Every screen that depends on it follows.`, bad: false })
    },
  })
  return (
    <View className="gap-5">
      <T kind="heading" level={2}>
        {say`Methods`}
      </T>
      {SCHOOL_QUESTIONS.map(({ key, label, why, options }) => (
        <View key={key} className="gap-1">
          <FormChoice control={control} name={key} label={label} options={options} mayEdit={mayEdit} />
          <T kind="small">{why}</T>
        </View>
      ))}
      {message ? (
        <T role="status" kind="strong" className={message.bad ? 'text-oxblood' : 'text-lichen-text'}>
          {message.text}
        </T>
      ) : null}
      {mayEdit ? (
        <FormEnd problem={problem} busy={busy} disabled={!form.formState.isDirty} act={say`Save the methods`} onSubmit={submit} />
      ) : (
        <T kind="quiet">{say`The owner chooses these.`}</T>
      )}
    </View>
  )
}

function People() {
  const people = usePeople()
  const [adding, setAdding] = useState(false)
  const refresh = () => queryClient.invalidateQueries({ queryKey: KEY.people })
  return (
    <View className="gap-3">
      <T kind="heading" level={2}>
        {say`People`}
      </T>
      {people.error ? <Failed what={say`People cannot be shown`} error={people.error} onRetry={() => void people.refetch()} /> : null}
      {people.data?.people.map((person: PersonDto) => (
        <PersonCard key={`${person.id}${person.version}`} person={person} onChanged={() => void refresh()} />
      ))}
      {adding ? (
        <NewPerson
          onDone={() => {
            setAdding(false)
            void refresh()
            void queryClient.invalidateQueries({ queryKey: ['mailbox'] })
          }}
        />
      ) : (
        <Button label={say`Invite a person`} onPress={() => setAdding(true)} />
      )}
    </View>
  )
}
