import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { saveBase, type Times } from '../../data/times'
import { PositionField, positionOf, positionProblem } from '../../parts/site/position-field'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { T } from '../../ui/text'

/** Somewhere vans start from, by its coordinates. */
export function NewBase({ places }: { places: Times['places'] }) {
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const [at, setAt] = useState('')
  const [tried, setTried] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const taken = places.some((place) => place.name === name.trim() && place.island === '')
  const position = positionOf(at)
  const save = async (): Promise<void> => {
    setTried(true)
    setProblem(null)
    if (name.trim() === '' || taken || position === null) return
    try {
      await saveBase(uuidv7(), { name: name.trim(), ...position })
      setOpen(false)
      setName('')
      setAt('')
      setTried(false)
    } catch (error) {
      setProblem(error instanceof Error ? error.message : 'It could not be saved.')
    }
  }
  if (!open)
    return (
      <View className="self-start">
        <Button label="Add a base" onPress={() => setOpen(true)} />
      </View>
    )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="heading" level={2}>
        New base
      </T>
      <Field
        label="Name of the base"
        value={name}
        onChangeText={setName}
        maxLength={80}
        error={tried && name.trim() === '' ? 'Name is required' : taken ? 'There is a base of this name' : undefined}
      />
      <PositionField
        label="Where it is"
        value={at}
        onChange={setAt}
        error={positionProblem(at) ?? (tried && at.trim() === '' ? 'Coordinates are required' : undefined)}
      />
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label="Cancel" onPress={() => setOpen(false)} />
        <Button label="Add this base" kind="act" grow onPress={() => void save()} />
      </View>
    </View>
  )
}
