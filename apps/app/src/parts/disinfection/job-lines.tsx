import type { DisinfectionRow } from '@evenround/contract/disinfections'
import { say } from '@evenround/core/words'
import { Link } from 'expo-router'
import { Pressable, View } from 'react-native'
import { useMe } from '../../data/queries'
import { dayOfInstant, daySpan, shortDay } from '../../ui/format'
import { T } from '../../ui/text'

const ACTS: Record<NonNullable<DisinfectionRow['act']>, string> = {
  dose: say`chlorine goes in`,
  strip: say`contact runs; strip at its end`,
  flush: say`flush`,
  sample: say`sample`,
  result: say`result from the laboratory`,
  cause: say`positive: cause, then repeat`,
}
const STANDS: Partial<Record<DisinfectionRow['stand'], string>> = {
  clean: say`proved clean`,
  flushed: say`flushed, not proved by a sample`,
  stopped: say`cancelled`,
}

/** When the next act of a job may or should be, and what it is. */
export function nextText(row: DisinfectionRow, today: string, zone: string): string {
  const act = row.act === null ? (STANDS[row.stand] ?? row.stand) : ACTS[row.act]
  if (row.act === null) return row.againOn ? say`${act} · again ${shortDay(row.againOn, today)}` : act
  if (row.act === 'dose') return `${shortDay(row.doseDay, today)}: ${act}`
  if (row.from === null) return act
  const from = dayOfInstant(row.from, zone)
  return `${row.to ? daySpan(from, dayOfInstant(row.to, zone), today) : say`from ${shortDay(from, today)}`}: ${act}`
}

/** Disinfections as lines: where, what comes next and when. */
export function JobLines({ rows, today, named }: { rows: readonly DisinfectionRow[]; today: string; named: boolean }) {
  const zone = useMe().data?.firm.timeZone ?? 'UTC'
  return (
    <View role="list" aria-label={say`Disinfections`}>
      {rows.map((row) => {
        const danger = row.stand === 'positive' || row.stand === 'e-coli'
        return (
          <View key={row.id} role="listitem">
            <Link href={`/disinfect/${row.id}`} asChild>
              <Pressable className="min-h-[48px] w-full flex-row flex-wrap items-center gap-x-3 border-t-2 border-line py-2">
                <T kind="strong" className={`min-w-[180px] flex-1 ${danger ? 'text-oxblood' : ''}`}>
                  {named ? `${row.siteName}, ${row.village}` : nextText(row, today, zone)}
                </T>
                <T kind="quiet">{named ? nextText(row, today, zone) : `${row.technicianName} · ${shortDay(row.doseDay, today)}`}</T>
              </Pressable>
            </Link>
          </View>
        )
      })}
    </View>
  )
}
