import type { FactResult } from '@evenround/contract/visit'
import { say } from '@evenround/core/words'
import { View } from 'react-native'
import { forgetEdit, retryEdits, useKeptEdits } from '../../data/kept-edits'
import { retryRefused, unsentAsFile, useOutbox } from '../../data/outbox'
import { Button } from '../../ui/button'
import { T } from '../../ui/text'

const REASONS: Record<NonNullable<FactResult['reason']>, string> = {
  'not-stored': say`The server could not store it; it stays here. Bring the server up to date, then send again.`,
  'bad-form': say`The server could not read it. Bring the app up to date, then send again.`,
  'unknown-site': say`The site is not there any more. Tell the office which one it was.`,
  'unknown-reference': say`What it belongs to is not known to the server.`,
  'no-right': say`Your role may not record this. Ask the owner.`,
  'not-own': say`It corrects what somebody else recorded; only they or the office may.`,
  'depends-on-refused': say`It waits for another one that was refused.`,
  'hold-needs-right': say`A hold for safety is lifted by the office, with its proof. It stands until then.`,
  'id-reused': say`Something else was stored under its number.`,
}

/** What is not sent, and what was refused with what to do about it. Nothing is dropped. */
export function Quarantine() {
  const entries = useOutbox((outbox) => outbox.entries)
  const open = entries.filter(({ state }) => state !== 'sent')
  const all = useKeptEdits((state) => state.edits)
  const [told, edits] = [all.filter(({ state }) => state === 'told'), all.filter(({ state }) => state !== 'told')]
  if (open.length + edits.length + told.length === 0) return <T kind="quiet">{say`Everything recorded on this device has been sent.`}</T>
  const keep = (): void => {
    const link = document.createElement('a')
    link.href = URL.createObjectURL(unsentAsFile())
    link.download = 'even-round-not-sent.json'
    link.click()
    URL.revokeObjectURL(link.href)
  }
  const refused = open.filter(({ state }) => state === 'refused')
  return (
    <View className="gap-2 rounded-card border-2 border-copper bg-sheet p-4">
      {told.map(({ id, what, message }) => (
        <View key={id} className="gap-2">
          <T>{`${what}. ${message ?? ''}`}</T>
          <View className="self-start">
            <Button label={say`Dismiss`} onPress={() => void forgetEdit(id)} />
          </View>
        </View>
      ))}
      {open.length + edits.length > 0 ? <T kind="heading" level={2}>{say`${open.length + edits.length} not sent`}</T> : null}
      {edits.map(({ id, what, message }) => (
        <T key={id}>{message ? `${what}: ${message}` : say`${what}, waits for a connection`}</T>
      ))}
      {refused.map(({ fact, reason }) => (
        <T key={fact.id}>{`${fact.kind.replaceAll('-', ' ')}: ${reason ? REASONS[reason] : say`refused`}`}</T>
      ))}
      <View className="flex-row flex-wrap gap-2">
        <Button label={say`Send again`} onPress={() => void retryEdits().then(retryRefused)} />
        <Button label={say`Keep as a file`} onPress={keep} />
      </View>
    </View>
  )
}
