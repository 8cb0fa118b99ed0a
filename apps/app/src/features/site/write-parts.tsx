import type { SystemDto } from '@evenround/contract/site'
import { stagesInFlow } from '@evenround/core/train'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useState } from 'react'
import { View } from 'react-native'
import { writeKnownParts } from '../../data/known-parts'
import { useMe, useShelf, useSite } from '../../data/queries'
import { useMay } from '../../data/rights'
import { daysHaveBeen, knownParts, PartsInIt, type PartsTyped } from '../../parts/site/parts-in-it'
import { BackLink } from '../../ui/back-link'
import { Button } from '../../ui/button'
import { Screen } from '../../ui/screen'
import { Empty, Failed, Waiting } from '../../ui/states'
import { T } from '../../ui/text'

/** Stages of a system of which nobody knows what is in them. */
const unknownIn = ({ train, stages }: SystemDto) => {
  const unknown = new Set(stages.filter(({ part }) => part === null).map(({ id }) => id))
  return stagesInFlow(train).filter(({ id }) => unknown.has(id))
}

interface WritePartsProps {
  siteId: string
  /** The stop one came from, to which it goes back. */
  stopId: string | null
}

/** What already sits in the systems of a site, written down without changing it: what a first visit comes for. */
export function WriteParts({ siteId, stopId }: WritePartsProps) {
  const page = useSite(siteId)
  const me = useMe().data
  const mayRecord = useMay('record-facts')
  const catalogue = useShelf().data?.parts ?? []
  const router = useRouter()
  const [typed, setTyped] = useState<PartsTyped>({})
  const [told, setTold] = useState<string | null>(null)
  const back = stopId === null ? `/sites/${siteId}` : `/stop/${stopId}`
  const over = <BackLink href={back} label={page.data?.site.name ?? say`Site`} />
  const title = say`What is fitted`
  if (!page.data)
    return (
      <Screen over={over} title={title}>
        {page.error ? (
          <Failed what={say`This site cannot be shown`} error={page.error} onRetry={() => void page.refetch()} />
        ) : (
          <Waiting what={say`Loading the site`} />
        )}
      </Screen>
    )
  const { systems } = page.data
  const some = systems.filter((system) => unknownIn(system).length > 0)
  const today = me?.today ?? ''
  const save = async (): Promise<void> => {
    const parts = knownParts(some.flatMap(unknownIn), typed, catalogue)
    if (parts.length === 0) return setTold(say`Scan or type at least one part number.`)
    if (!daysHaveBeen(typed, today)) return
    try {
      await writeKnownParts(siteId, some, parts, { name: me?.person.name ?? '', today })
      router.replace(back)
    } catch (error) {
      setTold(error instanceof Error ? error.message : say`It could not be kept on this device.`)
    }
  }
  const bottom =
    mayRecord && some.length > 0 ? <Button label={say`Write it down`} kind="act" size="big" grow onPress={() => void save()} /> : undefined
  return (
    <Screen over={over} title={title} bottom={bottom} wide>
      {some.length === 0 ? (
        <Empty
          title={say`All of it is known`}
          text={say`Each stage here has a part. What is wrong is corrected in the book, at the visit that says it.`}
        />
      ) : (
        <View className="max-w-[820px] gap-4">
          <T kind="quiet">{say`Scan or type what stands on the parts; nothing is changed by it. Left empty: nobody knows.`}</T>
          {some.map((system) => (
            <View key={system.id} className="gap-3">
              <T kind="heading" level={2}>
                {system.name}
              </T>
              <PartsInIt stages={unknownIn(system)} typed={typed} onTyped={setTyped} catalogue={catalogue} today={today} />
            </View>
          ))}
          {told ? (
            <T kind="strong" role="alert" className="text-oxblood">
              {told}
            </T>
          ) : null}
        </View>
      )}
    </Screen>
  )
}
