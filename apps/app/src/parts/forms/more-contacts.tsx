import { MOST_CONTACTS } from '@evenround/contract/protocol'
import type { SiteContact } from '@evenround/core/firm'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'

const EMPTY: SiteContact = { name: '', role: '', phone: '', email: '' }
const FIELDS = [
  ['name', say`Name`, 120, 'text'],
  ['role', say`What they are there`, 60, 'text'],
  ['phone', say`Telephone`, 40, 'tel'],
  ['email', 'E-mail', 254, 'email'],
] as const

interface MoreContactsProps {
  contacts: readonly SiteContact[]
  onChange: (contacts: SiteContact[]) => void
  error?: string | undefined
}

/** People to ask for besides the first: the caretaker, the tenant, who pays. */
export function MoreContacts({ contacts, onChange, error }: MoreContactsProps) {
  const set = (index: number, patch: Partial<SiteContact>): void =>
    onChange(contacts.map((contact, at) => (at === index ? { ...contact, ...patch } : contact)))
  return (
    <View className="gap-3">
      {contacts.map((contact, index) => (
        <View
          // biome-ignore lint/suspicious/noArrayIndexKey: contacts have no other name than their place while they are typed
          key={index}
          className="gap-3 rounded-card border-2 border-line p-3"
          role="group"
          aria-label={say`Further contact ${index + 1}`}
        >
          <View className="flex-row flex-wrap gap-3">
            {FIELDS.map(([name, label, most, mode]) => (
              <Field
                key={name}
                label={label}
                value={contact[name]}
                onChangeText={(text) => set(index, { [name]: text })}
                maxLength={most}
                inputMode={mode}
                autoCapitalize={mode === 'email' ? 'none' : 'sentences'}
                className="min-w-[180px] flex-1"
              />
            ))}
          </View>
          <View className="self-start">
            <Button label={say`Remove this contact`} onPress={() => onChange(contacts.filter((_, at) => at !== index))} />
          </View>
        </View>
      ))}
      {error ? (
        <T kind="small" role="alert" className="text-oxblood">
          {error}
        </T>
      ) : null}
      {contacts.length < MOST_CONTACTS ? (
        <View className="self-start">
          <Button label={say`Add a contact`} onPress={() => onChange([...contacts, EMPTY])} />
        </View>
      ) : null}
    </View>
  )
}
