import { useMutation } from '@tanstack/react-query'
import { useState } from 'react'
import { View } from 'react-native'
import { api, ask } from '../../data/api'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Screen } from '../../ui/screen'
import { Failed } from '../../ui/states'
import { T } from '../../ui/text'

/** The published round in open formats, and the secret address for one's own calendar. */
export function RoundFiles() {
  const [address, setAddress] = useState<string | null>(null)
  const make = useMutation({
    mutationFn: () => ask(api.feed.$post()),
    onSuccess: ({ path }) => setAddress(new URL(path, window.location.href).href),
  })
  const end = useMutation({ mutationFn: () => ask(api.feed.$delete()), onSuccess: () => setAddress(null) })
  return (
    <Screen over={<BackLink href="/round" label="The round" />} title="Calendar and files">
      <View className="gap-2">
        <T kind="heading" level={2}>
          Your round in your calendar
        </T>
        <T>
          A calendar program reads it from a secret address and keeps it up to date. Whoever has the address reads it: pass it to nobody.
        </T>
        {address ? (
          <View className="gap-1 rounded-card border-2 border-kelp bg-sheet p-3">
            <T kind="label">The address, shown once</T>
            <T selectable testID="feed-address" className="break-all">
              {address}
            </T>
          </View>
        ) : null}
        <View className="flex-row flex-wrap gap-2">
          <Button label={address ? 'Another address' : 'Make a secret address'} kind="act" onPress={() => make.mutate()} />
          <Button label="End the address" onPress={() => end.mutate()} />
        </View>
        {make.error ? <Failed what="No address was made" error={make.error} /> : null}
        {end.error ? <Failed what="The address still holds" error={end.error} /> : null}
        {end.isSuccess && !address ? <T kind="quiet">Whoever had an address of yours reads nothing any more.</T> : null}
      </View>
      <View className="gap-2">
        <T kind="heading" level={2}>
          Files
        </T>
        <File href="/api/round.ics" name="Your round as a calendar file" note="iCalendar" />
        <File href="/api/round.csv" name="Everybody’s stops as a table" note="CSV, days and times of the firm’s zone" />
        <File href="/api/round.geojson" name="Sites and tours on the map" note="GeoJSON" />
      </View>
    </Screen>
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
