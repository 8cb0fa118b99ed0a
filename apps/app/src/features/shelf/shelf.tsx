import { MEDIA_PROFILES } from '@evenround/core/catalogue'
import { useState } from 'react'
import { Pressable, View } from 'react-native'
import { useMe, useShelf } from '../../data/queries'
import { money, shortDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'
import { PartForm } from './part-form'

/** What the coming week wants from the van, and the catalogue. */
export function Shelf() {
  const shelf = useShelf()
  const me = useMe()
  const today = me.data?.today ?? ''
  const currency = me.data?.firm.currency ?? 'EUR'
  const mayEdit = me.data?.rights.includes('change-ratings') === true
  const [editing, setEditing] = useState<string | null>(null)
  return (
    <Screen title="Shelf" over="Parts for the coming seven days">
      {shelf.data ? (
        <View className="gap-6">
          {shelf.data.needs.length === 0 ? (
            <Empty title="Nothing to load" text="No part is wanted by your stops of the next seven days." />
          ) : null}
          <View role="list" aria-label="To load">
            {shelf.data.needs.map(({ partNumber, count, firstDay, forSites }) => (
              <View key={partNumber} role="listitem" className="flex-row gap-3 border-t-2 border-line py-3">
                <T kind="strong" className="w-10 text-right">{`${count} ×`}</T>
                <View className="flex-1">
                  <T kind="strong">{partNumber}</T>
                  <T kind="quiet">{`first on ${shortDay(firstDay, today)} · ${forSites.join(', ')}`}</T>
                </View>
              </View>
            ))}
          </View>
          <View>
            <T kind="heading" level={2}>
              Catalogue
            </T>
            {shelf.data.parts.map((part) =>
              part.id === editing ? (
                <PartForm key={part.id} part={part} currency={currency} onDone={() => setEditing(null)} />
              ) : (
                <View key={part.id} className="flex-row items-center gap-3 border-t-2 border-line py-2">
                  <View className="flex-1">
                    <T kind="strong">{`${part.partNumber} · ${part.name}`}</T>
                    <T kind="quiet">{`${part.maker} · ${MEDIA_PROFILES[part.media].name} · ${ratedWords(part.rated)}`}</T>
                  </View>
                  <T>{money(part.priceMinor, currency)}</T>
                  {mayEdit ? (
                    <Pressable
                      role="button"
                      aria-label={`Edit ${part.partNumber}`}
                      onPress={() => setEditing(part.id)}
                      className="min-h-[48px] min-w-[48px] items-center justify-center"
                    >
                      <T kind="label" className="underline">
                        Edit
                      </T>
                    </Pressable>
                  ) : null}
                </View>
              ),
            )}
          </View>
        </View>
      ) : shelf.error ? (
        <Failed what="The shelf cannot be shown" error={shelf.error} onRetry={() => void shelf.refetch()} />
      ) : (
        <Waiting rows={5} what="Loading the shelf" />
      )}
    </Screen>
  )
}

const DAYS_PER_MONTH = 365.2425 / 12

function ratedWords({
  days,
  litres,
  milliequivalents,
  hours,
}: {
  days: number | null
  litres: number | null
  milliequivalents: number | null
  hours: number | null
}): string {
  const words = [
    ...(days === null ? [] : [`${Math.round(days / DAYS_PER_MONTH)} months`]),
    ...(litres === null ? [] : [`${litres.toLocaleString('en-GB')} L`]),
    ...(milliequivalents === null ? [] : [`${milliequivalents.toLocaleString('en-GB')} meq`]),
    ...(hours === null ? [] : [`${hours.toLocaleString('en-GB')} h`]),
  ]
  return words.length > 0 ? `rated ${words.join(', ')}` : 'not rated'
}
