import type { HoldDto } from '@evenround/contract/site'
import { HOLD_ORDER } from '@evenround/core/visit'
import { View } from 'react-native'
import { useMe } from '../../data/queries'
import { instantText } from '../../ui/format'
import { T } from '../../ui/text'
import { HOLD_WORDS } from './hold-words'

/** Holds that are on, the strictest first, each with its end or what lifts it. */
export function HoldLines({ holds }: { holds: readonly HoldDto[] }) {
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  if (holds.length === 0) return null
  const ordered = [...holds].sort((a, b) => HOLD_ORDER.indexOf(a.holdKind) - HOLD_ORDER.indexOf(b.holdKind))
  return (
    <View className="gap-2">
      {ordered.map(({ id, holdKind, until, text }) => (
        <View key={id} className="rounded-card border-2 border-oxblood bg-sheet px-3 py-2">
          <T>
            <T kind="strong" className="text-oxblood">{`Hold: ${HOLD_WORDS[holdKind]}. `}</T>
            {text}
            {until === null ? ' Until a result lifts it.' : ` Until ${instantText(until, zone)}.`}
          </T>
        </View>
      ))}
    </View>
  )
}
