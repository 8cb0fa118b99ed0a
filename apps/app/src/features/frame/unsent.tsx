import { many, say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { Pressable, View } from 'react-native'
import { sendEdits, useKeptEdits } from '../../data/kept-edits'
import { flush, useOutbox } from '../../data/outbox'
import { sendPhotos, usePhotos } from '../../data/photos'
import { useRoom } from '../../data/room'
import { T } from '../../ui/text'

/** On every screen: what is not sent yet, what was refused, and a clock that is off. Nothing when all is well. */
export function UnsentStrip() {
  const waiting = useOutbox(({ entries }) => entries.filter(({ state }) => state === 'waiting').length)
  const refused = useOutbox(({ entries }) => entries.filter(({ state }) => state === 'refused').length)
  const trouble = useOutbox((state) => state.trouble)
  const edits = useKeptEdits((state) => state.edits)
  const unsent = waiting + edits.filter(({ state }) => state === 'waiting').length
  const refusedInAll = refused + edits.filter(({ state }) => state === 'refused').length
  const told = edits.filter(({ state }) => state === 'told').length
  const skewMs = useOutbox((state) => state.skewMs)
  const photos = usePhotos((state) => (state.trouble ? state.photos.filter(({ state: sent }) => sent === 'waiting').length : 0))
  const { full, unkept } = useRoom()
  // That all is kept on the device is not said where it is not.
  const toldTrouble = unkept.size > 0 ? null : trouble
  const router = useRouter()
  const editsWaiting = unsent > waiting
  const shown = (trouble !== null && waiting > 0) || editsWaiting || refusedInAll > 0 || told > 0 || skewMs !== null || photos > 0 || full
  if (!shown) return null
  return (
    <View role="status" className="gap-1 border-b-2 border-copper bg-sheet px-4 py-2">
      {full ? (
        <T role="alert" kind="label" className="text-oxblood">
          {unkept.size > 0
            ? say`This device has no room left. ${many(unkept.size, 'record stands', 'records stand')} in this page alone: leave it open until all is sent, then free some room.`
            : say`This device has no room left: without a network, nothing recorded would be kept. Free some room on it.`}
        </T>
      ) : null}
      {editsWaiting || (trouble !== null && waiting > 0) ? (
        <Pressable role="button" onPress={() => void (editsWaiting ? sendEdits() : flush())} className="min-h-[40px] justify-center">
          <T
            kind="label"
            className="text-copper-text"
          >{say`${unsent} not sent yet. ${toldTrouble ?? say`They go out with the next connection.`} Tap to send now.`}</T>
        </Pressable>
      ) : null}
      {photos > 0 ? (
        <Pressable role="button" onPress={() => void sendPhotos()} className="min-h-[40px] justify-center">
          <T kind="label" className="text-copper-text">{say`${many(photos, 'photo', 'photos')} not sent yet. Tap to send now.`}</T>
        </Pressable>
      ) : null}
      {refusedInAll > 0 ? (
        <Pressable role="button" onPress={() => router.push('/me')} className="min-h-[40px] justify-center">
          <T kind="label" className="text-oxblood">{say`${refusedInAll} refused by the server and kept here. Tap to look.`}</T>
        </Pressable>
      ) : null}
      {told > 0 ? (
        <Pressable role="button" onPress={() => router.push('/me')} className="min-h-[40px] justify-center">
          <T kind="label" className="text-copper-text">
            {say`Somebody else changed the same thing meanwhile. Tap to see what was kept.`}
          </T>
        </Pressable>
      ) : null}
      {skewMs === null ? null : (
        <T kind="small">{say`This device’s clock is off by ${Math.round(Math.abs(skewMs) / 60_000)} min; times are put right on the server.`}</T>
      )}
    </View>
  )
}
