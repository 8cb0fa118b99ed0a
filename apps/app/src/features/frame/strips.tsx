import { say } from '@evenround/core/words'
import { useRouter } from 'expo-router'
import { Pressable, View } from 'react-native'
import { takeUpdate, useProgram } from '../../data/program'
import { T } from '../../ui/text'
import { isAtDoor } from './places'

function Strip({ text, onPress }: { text: string; onPress: () => void }) {
  return (
    <View role="status" className="border-b-2 border-copper bg-sheet px-4 py-2">
      <Pressable role="button" onPress={onPress} className="min-h-[40px] justify-center">
        <T kind="label" className="text-copper-text">
          {text}
        </T>
      </Pressable>
    </View>
  )
}

/** The sign-in ran out: work goes on, sending waits. */
export function Expired() {
  const router = useRouter()
  return (
    <Strip text={say`Your sign-in has run out. What you do is kept here; sign in to send it.`} onPress={() => router.push('/sign-in')} />
  )
}

/** A newer program is taken between visits, never in one. */
export function Update({ path }: { path: string }) {
  const waiting = useProgram((program) => program.waiting)
  if (waiting === null || isAtDoor(path)) return null
  return <Strip text={say`A newer version is ready. Tap to update.`} onPress={takeUpdate} />
}

/** The firm asks this owner for something they have not set up. */
export function SecondMissing() {
  const router = useRouter()
  return <Strip text={say`Your firm asks its owners for a second factor. Tap to set yours up.`} onPress={() => router.push('/me')} />
}
