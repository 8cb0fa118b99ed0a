import { say } from '@evenround/core/words'
import { type ReactNode, useState } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'

interface WhyLeftProps {
  label: string
  hint?: string | undefined
  /** What the button does. */
  act: string
  /** Another way, beside it. */
  beside?: ReactNode
  onLeave: (why: string) => void
}

/** Work is left for another day only with a reason. */
export function WhyLeft({ label, hint, act, beside, onLeave }: WhyLeftProps) {
  const [typed, setTyped] = useState('')
  const [asked, setAsked] = useState(false)
  const why = typed.trim()
  const leave = <Button label={act} kind="act" onPress={() => (why === '' ? setAsked(true) : onLeave(why))} />
  return (
    <View className="gap-2">
      <Field
        label={label}
        value={typed}
        onChangeText={setTyped}
        maxLength={300}
        hint={hint}
        error={asked && why === '' ? say`Say why: the next one reads it` : undefined}
      />
      {beside ? (
        <View className="flex-row flex-wrap gap-2">
          {leave}
          {beside}
        </View>
      ) : (
        leave
      )}
    </View>
  )
}
