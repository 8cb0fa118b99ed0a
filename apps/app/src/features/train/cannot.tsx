import { useState } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { Notice } from '../../ui/notice'
import { T } from '../../ui/text'

interface CannotProps {
  onSkip: (why: string) => void
  onStop: () => void
  onClose: () => void
}

/** When a step cannot be done: say why and go on, or stop here with the work partly done. */
export function Cannot({ onSkip, onStop, onClose }: CannotProps) {
  const [why, setWhy] = useState('')
  const [asked, setAsked] = useState(false)
  return (
    <Notice tone="look" title="What is in the way?">
      <T>
        Nothing is opened while water still presses. If a valve will not close, shut the one further up; if that is not possible, stop here.
      </T>
      <Field
        label="In a few words"
        value={why}
        onChangeText={setWhy}
        maxLength={300}
        error={asked && why.trim() === '' ? 'Say what is in the way: the next one reads it' : undefined}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button label="Leave this step out" onPress={() => (why.trim() === '' ? setAsked(true) : onSkip(why.trim()))} />
        <Button label="Stop here: partly done" kind="danger" onPress={onStop} />
        <Button label="Back to the step" onPress={onClose} />
      </View>
    </Notice>
  )
}
