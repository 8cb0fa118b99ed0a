import type { PaceDto, RoadServerDto } from '@evenround/contract/road-server'
import { many, say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import * as z from 'zod/mini'
import { useMe } from '../../data/queries'
import { useMay } from '../../data/rights'
import { askRoadServer, saveRoadServer, useWays } from '../../data/ways'
import { FormEnd, FormField } from '../../parts/forms/form-fields'
import { useSavedForm } from '../../parts/forms/saved-form'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { useDesk } from '../../ui/desk'
import { instantText, timeOfDay } from '../../ui/format'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** How the round knows how long drives take: by a routing server where there is one, and by the drives that were made. */
export function DrivingTimes() {
  const ways = useWays()
  const desk = useDesk()
  return (
    <Screen over={<BackLink href="/times" label={say`Times and days off`} />} title={say`Driving times`} wide>
      <T kind="quiet" className="max-w-[680px]">
        {say`Drives over land are estimated from the distance, or taken from a routing server where the firm has one. The drives your people really made correct both.`}
      </T>
      {ways.data ? (
        <View className={desk ? 'flex-row items-start gap-10' : 'gap-8'}>
          <View className={`gap-3 ${desk ? 'flex-1' : ''}`}>
            <T kind="title" role="heading" aria-level={2}>{say`Routing server`}</T>
            <Server server={ways.data.roadServer} />
          </View>
          <View className={`gap-3 ${desk ? 'flex-1' : ''}`}>
            <T kind="title" role="heading" aria-level={2}>{say`What your drives say`}</T>
            <Taught pace={ways.data.pace} />
          </View>
        </View>
      ) : ways.error ? (
        <Failed what={say`The driving times cannot be shown`} error={ways.error} onRetry={() => void ways.refetch()} />
      ) : (
        <Waiting />
      )}
    </Screen>
  )
}

function Server({ server }: { server: RoadServerDto }) {
  const may = useMay('change-schools')
  if (server.hosts.length === 0 && server.address === null)
    return (
      <Empty
        title={say`None: drives are estimated`}
        text={say`Whoever runs this installation has to allow a routing server first (ROUTING_SERVERS). Then its address is entered here.`}
      />
    )
  return (
    <>
      {server.address === null ? null : <Stands server={server} />}
      {may ? (
        <AddressForm key={server.version} server={server} />
      ) : server.address === null ? (
        <T>{say`None: drives are estimated. An owner can name one.`}</T>
      ) : null}
    </>
  )
}

function Stands({ server }: { server: RoadServerDto }) {
  const timeZone = useMe().data?.firm.timeZone ?? 'UTC'
  const may = useMay('plan-rounds')
  const [failed, setFailed] = useState<string | null>(null)
  const { address, known, places, offRoad, answeredAt, nextAt, asking, problem } = server
  const again = (): void => {
    setFailed(null)
    askRoadServer().catch((error: unknown) => setFailed(error instanceof Error ? error.message : say`It could not be asked.`))
  }
  return (
    <View className="gap-2 border-t-2 border-line pt-3" testID="road-server">
      <T kind="strong" className="break-all">
        {address}
      </T>
      <T>
        {places === 0 && answeredAt === null
          ? asking
            ? say`It is being asked; until it answers drives are estimated.`
            : say`It has not answered yet: drives are estimated.`
          : known < places
            ? say`Knows the ways of ${known} of ${places} places; the others are estimated.`
            : say`Knows the ways of all ${many(places, 'place', 'places')}.`}
      </T>
      {offRoad > 0 ? (
        <T className="text-copper-text">
          {say`${many(offRoad, 'place lies', 'places lie')} more than 2 km from any road it knows: their ways are estimated. Look at their coordinates.`}
        </T>
      ) : null}
      {problem === null ? (
        answeredAt === null ? null : (
          <T kind="quiet">{say`Last answered ${instantText(answeredAt, timeZone)}.`}</T>
        )
      ) : (
        <T role="alert" className="text-oxblood">
          {[
            problem,
            answeredAt === null ? null : say`What it said before stays in use.`,
            say`It is asked again ${instantText(nextAt ?? '', timeZone)}.`,
          ]
            .filter((sentence) => sentence !== null)
            .join(' ')}
        </T>
      )}
      {failed ? (
        <T role="alert" className="text-oxblood">
          {failed}
        </T>
      ) : null}
      {may ? (
        <View className="self-start">
          <Button label={say`Ask it now`} onPress={again} />
        </View>
      ) : null}
    </View>
  )
}

const schema = z.object({ address: z.string().check(z.trim(), z.minLength(1, { error: () => say`An address is required` })) })

function AddressForm({ server: { address, version, hosts } }: { server: RoadServerDto }) {
  const { control, submit, problem, busy } = useSavedForm({
    schema,
    values: { address: address ?? '' },
    version,
    save: (typed, opened) => saveRoadServer(typed.address, opened),
  })
  const [failed, setFailed] = useState<string | null>(null)
  const doWithout = (): void => {
    saveRoadServer(null, version).catch((error: unknown) =>
      setFailed(error instanceof Error ? error.message : say`It could not be removed.`),
    )
  }
  return (
    <View className="max-w-[560px] gap-3">
      <FormField
        control={control}
        name="address"
        label={say`Address of the routing server`}
        hint={say`Allowed here: ${hosts.join(', ')}. It is asked for tables (…/table/v1/driving/…) and told where your bases, sites and crossings lie, nothing else.`}
        maxLength={300}
        autoCapitalize="none"
        inputMode="url"
      />
      <FormEnd problem={problem ?? failed} busy={busy} act={say`Save the address`} onSubmit={submit} />
      {address === null ? null : (
        <View className="self-start">
          <Button label={say`Do without it`} onPress={doWithout} />
        </View>
      )}
    </View>
  )
}

const changeText = (factor: number): string => {
  const more = Math.round((factor - 1) * 100)
  return more === 0 ? say`as known` : more > 0 ? `+${more} %` : `−${-more} %`
}

/** Hours of a day in which somebody drives. */
const FIRST_SLOT = 1

function Taught({ pace: { drives, fromMin, areas } }: { pace: PaceDto }) {
  if (drives === 0)
    return (
      <T className="max-w-[560px]">
        {say`Nothing yet that would change a plan. Once ten drives or more from one door to the next took noticeably longer or shorter than known, ways are counted by them.`}
      </T>
    )
  return (
    <View className="gap-3" testID="pace">
      <T>{say`${many(drives, 'drive', 'drives')} from the end of a visit to the beginning of the next. By where and when a drive begins, ways take:`}</T>
      {areas.map(({ area, factors }) => (
        <View key={area} className="gap-1 border-t-2 border-line pt-2">
          <T kind="strong">{area || say`the mainland`}</T>
          <View className="flex-row flex-wrap gap-x-5 gap-y-1">
            {fromMin.slice(FIRST_SLOT).map((from, index) => (
              <View key={from} className="min-w-[92px]">
                <T kind="small">{say`from ${timeOfDay(from)}`}</T>
                <T>{changeText(factors[index + FIRST_SLOT] ?? 1)}</T>
              </View>
            ))}
          </View>
        </View>
      ))}
    </View>
  )
}
