import type { MendedDto, SiteDto } from '@evenround/contract/site'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { mendSite, useMended } from '../../data/from-the-door'
import { useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { instantText } from '../../ui/format'
import { dialled } from '../../ui/telephone'
import { T } from '../../ui/text'

const NAMES: Record<MendedDto['field'], string> = { access: say`Access`, contact: say`Who to ask for`, phone: say`Telephone` }

/** How to get in, whom to ask and call; whoever stands at the door and finds it wrong mends it there. */
export function GettingIn({ site: stored, mended = [] }: { site: SiteDto; mended?: readonly MendedDto[] | undefined }) {
  const site = useMended(stored)
  const may = useMay('mend-at-door')
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const [open, setOpen] = useState(false)
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        {say`Access`}
      </T>
      {open ? (
        <MendForm site={site} onDone={() => setOpen(false)} />
      ) : (
        <>
          <T>{site.access || say`Nothing is noted. What you learn at the door helps the next one.`}</T>
          <Contact site={site} />
          {(site.contacts ?? []).map(({ name, role, phone, email }) => (
            <View key={`${name}${phone}`} className="flex-row flex-wrap items-center gap-x-4">
              <Reach name={role === '' ? name : `${name}, ${role}`} phone={phone} email={email} />
            </View>
          ))}
          {mended.map(({ field, at, byName }) => (
            <T key={field} kind="small">{say`${NAMES[field]} as ${byName} found it, ${instantText(at, zone)}`}</T>
          ))}
          {may ? (
            <View className="self-start">
              <Button label={say`Correct what is wrong here`} onPress={() => setOpen(true)} />
            </View>
          ) : null}
        </>
      )}
    </View>
  )
}

function Anchor({ href, label }: { href: string; label: string }) {
  return (
    <a href={href} className="inline-flex min-h-[48px] items-center text-ink underline">
      <T kind="quiet">{label}</T>
    </a>
  )
}

/** Somebody, and how to reach them by a tap. */
function Reach({ name, phone, email }: { name: string; phone: string; email: string }) {
  return (
    <>
      {name ? <T kind="quiet">{name}</T> : null}
      {phone ? <Anchor href={`tel:${dialled(phone)}`} label={phone} /> : null}
      {email ? <Anchor href={`mailto:${email}`} label={email} /> : null}
    </>
  )
}

/** Whom to ask and how to reach them, and the way there: handed to the phone's own navigation, or shown on a map. */
function Contact({ site: { contact, phone, email, lat, lon } }: { site: SiteDto }) {
  const at = lat === null || lon === null ? null : `${lat},${lon}`
  if (!contact && !phone && !email && at === null) return null
  return (
    <View className="flex-row flex-wrap items-center gap-x-4">
      <Reach name={contact} phone={phone} email={email} />
      {at ? <Anchor href={`geo:${at}?q=${at}`} label={say`Take me there`} /> : null}
      {at ? (
        <Anchor href={`https://www.openstreetmap.org/?mlat=${lat}&mlon=${lon}#map=17/${lat}/${lon}`} label={say`Show on a map`} />
      ) : null}
    </View>
  )
}

function MendForm({ site, onDone }: { site: SiteDto; onDone: () => void }) {
  const [access, setAccess] = useState(site.access)
  const [contact, setContact] = useState(site.contact)
  const [phone, setPhone] = useState(site.phone)
  const save = async (): Promise<void> => {
    await mendSite(site, { access: access.trim(), contact: contact.trim(), phone: phone.trim() })
    onDone()
  }
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-3">
      <Field
        label={say`Access`}
        value={access}
        onChangeText={setAccess}
        multiline
        maxLength={1000}
        hint={say`Key, gate code, where the shut-off is`}
      />
      <Field label={say`Who to ask for`} value={contact} onChangeText={setContact} maxLength={120} />
      <Field label={say`Telephone`} value={phone} onChangeText={setPhone} maxLength={40} inputMode="tel" />
      <T kind="small">{say`It is written down with your name, and reaches everybody when there is a signal.`}</T>
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Cancel`} onPress={onDone} />
        <Button label={say`Save`} kind="act" grow onPress={() => void save()} />
      </View>
    </View>
  )
}
