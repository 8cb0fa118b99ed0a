import { say } from '@evenround/core/words'
import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { api, ask } from '../../data/api'
import { useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { usePublications, usePublishedChanges } from '../../data/round'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Columns } from '../../ui/columns'
import { instantText } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'
import { weekdayWord } from './words'

/** The published round in open formats, and the secret address for one's own calendar. */
export function RoundFiles() {
  const mayExport = useMay('export')
  const [address, setAddress] = useState<string | null>(null)
  const make = useMutation({
    mutationFn: () => ask(api.feed.$post()),
    onSuccess: ({ path }) => setAddress(new URL(path, window.location.href).href),
  })
  const end = useMutation({ mutationFn: () => ask(api.feed.$delete()), onSuccess: () => setAddress(null) })
  return (
    <Screen over={<BackLink href="/round" label={say`The round`} />} title={say`Calendar and files`} wide>
      <Columns>
        <View className="gap-4">
          <View className="gap-2">
            <T kind="heading" level={2}>
              {say`Your round in your calendar`}
            </T>
            <T>
              {say`A calendar program reads it from a secret address and keeps it up to date. Whoever has the address reads it: pass it to nobody.`}
            </T>
            {address ? (
              <View className="gap-1 rounded-card border-2 border-kelp bg-sheet p-3">
                <T kind="label">{say`The address, shown once`}</T>
                <T selectable testID="feed-address" className="break-all">
                  {address}
                </T>
              </View>
            ) : null}
            <View className="flex-row flex-wrap gap-2">
              <Button label={address ? say`Another address` : say`Make a secret address`} kind="act" onPress={() => make.mutate()} />
              <Button label={say`End the address`} onPress={() => end.mutate()} />
            </View>
            {make.error ? <Failed what={say`No address was made`} error={make.error} /> : null}
            {end.error ? <Failed what={say`The address still works`} error={end.error} /> : null}
            {end.isSuccess && !address ? <T kind="quiet">{say`Whoever had an address of yours reads nothing any more.`}</T> : null}
          </View>
          <View className="gap-2">
            <T kind="heading" level={2}>
              {say`Files`}
            </T>
            <File href="/api/round.ics" name={say`Your round as a calendar file`} note={say`iCalendar`} />
            {mayExport ? (
              <>
                <File href="/api/round.csv" name={say`Everybody’s stops as a table`} note={say`CSV, days and times of the firm’s zone`} />
                <File href="/api/round.geojson" name={say`Sites and tours on the map`} note={say`GeoJSON`} />
              </>
            ) : null}
          </View>
        </View>
        <Publications />
      </Columns>
    </Screen>
  )
}

/** Every publication, and what it changed: numbered, and never changed itself. */
function Publications() {
  const all = usePublications()
  const timeZone = useMe().data?.firm.timeZone ?? 'UTC'
  const [open, setOpen] = useState<number | null>(null)
  const changes = usePublishedChanges(open)
  const rows = all.data?.publications ?? []
  return (
    <View className="gap-1">
      <T kind="heading" level={2}>
        {say`Published so far`}
      </T>
      {all.error ? <Failed what={say`The publications cannot be shown`} error={all.error} onRetry={() => void all.refetch()} /> : null}
      {rows.length === 0 && !all.error ? <T kind="quiet">{say`None yet.`}</T> : null}
      {rows.map(({ number, publishedAt, byName }) => (
        <View key={number} className="border-b-2 border-line">
          <Pressable
            role="button"
            aria-expanded={open === number}
            onPress={() => setOpen(open === number ? null : number)}
            className="min-h-[56px] justify-center"
          >
            <T kind="strong">{say`Number ${number}`}</T>
            <T kind="small">{`${instantText(publishedAt, timeZone)}, ${byName}`}</T>
          </Pressable>
          {open === number ? (
            <View className="gap-1 pb-3">
              {changes.data?.changes.length === 0 ? <T kind="quiet">{say`No changes from the one before.`}</T> : null}
              {changes.data?.changes.map(({ visitId, siteName, was, now }) => (
                <T key={visitId}>
                  {`${siteName}: ${was ? `${weekdayWord(was.day)}, ${was.technician}` : say`no day`} → ${now ? `${weekdayWord(now.day)}, ${now.technician}` : say`no day`}`}
                </T>
              ))}
            </View>
          ) : null}
        </View>
      ))}
    </View>
  )
}

function File({ href, name, note }: { href: string; name: string; note: string }) {
  return (
    <a href={href} download className="block">
      <View className="min-h-[56px] justify-center border-b-2 border-line">
        <T kind="strong" className="underline">
          {name}
        </T>
        <T kind="small">{note}</T>
      </View>
    </a>
  )
}
