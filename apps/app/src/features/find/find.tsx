import type { Found } from '@evenround/contract/find'
import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { useEffect, useRef, useState } from 'react'
import { Pressable, TextInput, View } from 'react-native'
import { useFound } from '../../data/find'
import { useMe } from '../../data/queries'
import { COLOR } from '../../ui/colors'
import { instantText } from '../../ui/format'
import { Icon } from '../../ui/icons'
import { Screen } from '../../ui/screen'
import { Empty, Failed } from '../../ui/states'
import { T } from '../../ui/text'

const KIND_WORDS: Record<Found['kind'], string> = {
  site: say`Site`,
  system: say`System`,
  part: say`Part fitted`,
  visit: say`Note of a visit`,
  fault: say`Noted for later`,
}

/** Where a thing that was found is looked at. */
export const hrefOf = ({ kind, id, siteId }: Pick<Found, 'kind' | 'id' | 'siteId'>): `/book/${string}` | `/sites/${string}` =>
  kind === 'visit' ? `/book/${id}` : `/sites/${siteId}`

/** How long nothing is typed before it is asked for. */
const PAUSE_MS = 120
function usePaused(text: string): string {
  const [paused, setPaused] = useState(text)
  useEffect(() => {
    const timer = setTimeout(() => setPaused(text), PAUSE_MS)
    return () => clearTimeout(timer)
  }, [text])
  return paused
}

/** Anything of the firm, from anywhere: by part of a word, and with slips. */
export function Find() {
  const router = useRouter()
  const [typed, setTyped] = useState('')
  const asked = usePaused(typed.trim())
  const found = useFound(asked)
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  const input = useRef<TextInput>(null)
  useEffect(() => input.current?.focus(), [])
  const rows = found.data?.found ?? []
  const open = (one: Found | undefined): void => {
    if (one) router.push(hrefOf(one))
  }
  return (
    <Screen title={say`Search`} wide>
      <View className="flex-row items-center gap-2 rounded-card border-2 border-line bg-sheet px-3 focus-within:border-kelp">
        <Icon name="search" color={COLOR.quiet} size={20} />
        <TextInput
          ref={input}
          value={typed}
          onChangeText={setTyped}
          onSubmitEditing={() => open(rows[0])}
          aria-label={say`Search the firm`}
          placeholder={say`Customer, telephone, part number, what was noted`}
          autoCorrect={false}
          maxLength={80}
          className="min-h-[48px] flex-1 font-text text-[17px] text-ink"
        />
      </View>
      {found.error ? <Failed what={say`Nothing can be searched now`} error={found.error} onRetry={() => void found.refetch()} /> : null}
      {asked.length < 2 ? (
        <T kind="quiet">
          {say`Two letters are enough. Sites, systems, people to ask for, part numbers and marks, and what was noted at visits are searched.`}
        </T>
      ) : found.data && rows.length === 0 ? (
        <Empty title={say`Nothing found`} text={say`Try fewer letters, or another word of it.`} />
      ) : (
        <View role="list" aria-label={say`What was found`}>
          {rows.map((one) => (
            <Pressable
              key={`${one.kind}${one.id}`}
              role="listitem"
              onPress={() => open(one)}
              className="min-h-[56px] justify-center border-b-2 border-line py-2"
            >
              <T kind="strong" numberOfLines={2}>
                {one.title}
              </T>
              <T kind="quiet">{`${KIND_WORDS[one.kind]}${one.kind === 'site' ? '' : ` · ${one.siteName}`}${one.at ? ` · ${instantText(one.at, zone)}` : ''}`}</T>
            </Pressable>
          ))}
        </View>
      )}
    </Screen>
  )
}
