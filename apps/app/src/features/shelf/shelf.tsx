import type { ShelfDto } from '@evenround/contract/shelf'
import { say } from '@evenround/core/words'
import { useLocalSearchParams, useRouter } from 'expo-router'
import { useMemo } from 'react'
import { View } from 'react-native'
import { useLocal } from '../../data/local'
import { useMe, useShelf } from '../../data/queries'
import { useDesk } from '../../ui/desk'
import { shortDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Segments } from '../../ui/segments'
import { Empty, Failed, Waiting } from '../../ui/states'
import { Table, type TableColumn, type TableView, USUAL_VIEW } from '../../ui/table'
import { T } from '../../ui/text'
import { Catalogue } from './catalogue'
import { ChlorineShelf } from './chlorine'
import { Housings } from './housings'
import { Media } from './media'
import { OwnKinds } from './own-kinds'

const WORDS = { van: say`Van`, parts: say`Parts`, media: say`Media`, housings: say`Housings`, chlorine: say`Chlorine` } as const
type Section = keyof typeof WORDS
const OVER: Record<Section, string> = {
  van: say`Parts for the coming seven days`,
  parts: say`Catalogue: what you fit, and what it is rated at`,
  media: say`What each medium is worth until a part says otherwise`,
  housings: say`How each is opened, and what comes before`,
  chlorine: say`What you dose with, by its label and its day`,
}

/** What the coming week wants from the van, and the catalogue; which of them stands in the address. */
export function Shelf() {
  const shelf = useShelf()
  const me = useMe()
  const router = useRouter()
  const { show } = useLocalSearchParams<{ show?: string }>()
  const section: Section = show !== undefined && show in WORDS ? (show as Section) : 'van'
  const mayEdit = me.data?.rights.includes('change-ratings') === true
  return (
    <Screen title={say`Shelf`} over={OVER[section]} wide>
      <Segments label={say`What to show`} value={section} words={WORDS} onChange={(next) => router.setParams({ show: next })} />
      {shelf.data ? (
        section === 'van' ? (
          <Needs needs={shelf.data.needs} today={me.data?.today ?? ''} />
        ) : section === 'parts' ? (
          <Catalogue parts={shelf.data.parts} kinds={shelf.data.kinds} currency={me.data?.firm.currency ?? 'EUR'} mayEdit={mayEdit} />
        ) : section === 'media' ? (
          <>
            <Media media={shelf.data.media} mayEdit={mayEdit} />
            <OwnKinds kinds={shelf.data.kinds} mayEdit={mayEdit} />
          </>
        ) : section === 'housings' ? (
          <Housings />
        ) : (
          <ChlorineShelf mayEdit={mayEdit} today={me.data?.today ?? ''} />
        )
      ) : shelf.error ? (
        <Failed what={say`The shelf cannot be shown`} error={shelf.error} onRetry={() => void shelf.refetch()} />
      ) : (
        <Waiting rows={5} what={say`Loading the shelf`} />
      )}
    </Screen>
  )
}

const needsColumns = (today: string): readonly TableColumn<ShelfDto['needs'][number]>[] => [
  { id: 'count', label: say`How many`, value: ({ count }) => count, share: 1 },
  {
    id: 'part',
    label: say`Part number`,
    value: ({ partNumber }) => partNumber,
    show: ({ partNumber }) => <T kind="strong">{partNumber}</T>,
    share: 3,
    fixed: true,
  },
  {
    id: 'first',
    label: say`First needed`,
    value: ({ firstDay }) => firstDay,
    show: ({ firstDay }) => <T>{shortDay(firstDay, today)}</T>,
    share: 2,
  },
  { id: 'sites', label: say`For`, value: ({ forSites }) => forSites.join(', '), share: 6 },
]

function Needs({ needs, today }: { needs: ShelfDto['needs']; today: string }) {
  const desk = useDesk()
  const columns = useMemo(() => needsColumns(today), [today])
  const [view, setView] = useLocal<TableView>('even-round.table.van', USUAL_VIEW)
  if (needs.length === 0) return <Empty title={say`Nothing to load`} text={say`Your stops of the next seven days need no part.`} />
  if (desk)
    return (
      <Table
        label={say`To load`}
        rows={needs}
        keyOf={({ partNumber }) => partNumber}
        columns={columns}
        view={view}
        onView={setView}
        chosen={null}
      />
    )
  return (
    <View role="list" aria-label={say`To load`}>
      {needs.map(({ partNumber, count, firstDay, forSites }) => (
        <View key={partNumber} role="listitem" className="flex-row gap-3 border-t-2 border-line py-3">
          <T kind="strong" className="w-10 text-right">{`${count} ×`}</T>
          <View className="flex-1">
            <T kind="strong">{partNumber}</T>
            <T kind="quiet">{say`first on ${shortDay(firstDay, today)} · ${forSites.join(', ')}`}</T>
          </View>
        </View>
      ))}
    </View>
  )
}
