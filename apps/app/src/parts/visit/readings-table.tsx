import { tds } from '@evenround/core/readings'
import { unitOf } from '@evenround/core/units'
import type { TdsReading } from '@evenround/core/visit'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { useUnits } from '../../data/units'
import { figure } from '../../ui/format'
import { T } from '../../ui/text'

type Pair = { untreated: TdsReading | null; treated: TdsReading | null }

/** A stored reading as mg/L at 25 °C, one figure, as the screens show it. */
export const mgL = (reading: TdsReading | null): string => (reading === null ? '–' : figure(tds(reading).tdsMgL))

/** The same, with a mark where it was asked about and kept. */
const marked = (reading: TdsReading | null): string => `${mgL(reading)}${reading?.keptDespiteDoubt ? ' *' : ''}`

/** Before and after, untreated and treated, in mg/L. */
export function ReadingsTable({ before, after }: { before: Pair; after: Pair }) {
  const units = useUnits()
  const kept = [before, after].some(({ untreated, treated }) => untreated?.keptDespiteDoubt || treated?.keptDespiteDoubt)
  const row = (label: string, pair: Pair) => (
    <View className="flex-row border-t-2 border-line py-2" role="row">
      <T kind="strong" className="flex-1" role="cell">
        {label}
      </T>
      <T className="w-28 text-right" role="cell">
        {marked(pair.untreated)}
      </T>
      <T className="w-28 text-right" role="cell">
        {marked(pair.treated)}
      </T>
    </View>
  )
  return (
    <View role="table" aria-label={say`Readings in ${unitOf('concentration', units).text}`}>
      <View className="flex-row pb-1" role="row">
        <T kind="small" className="flex-1" role="columnheader">
          {say`${unitOf('concentration', units).text} at 25 °C`}
        </T>
        <T kind="small" className="w-28 text-right" role="columnheader">
          {say`untreated`}
        </T>
        <T kind="small" className="w-28 text-right" role="columnheader">
          {say`treated`}
        </T>
      </View>
      {row(say`Before`, before)}
      {row(say`After`, after)}
      {kept ? <T kind="small">{say`* Asked about when it was read, and kept.`}</T> : null}
    </View>
  )
}
