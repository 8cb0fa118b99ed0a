import { formatPosition } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { useState } from 'react'
import { View } from 'react-native'
import { v7 as uuidv7 } from 'uuid'
import { useSites } from '../../data/queries'
import { saveBase, type Times } from '../../data/times'
import { PositionField, positionOf, positionProblem } from '../../parts/site/position-field'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { Select } from '../../ui/select'
import { T } from '../../ui/text'

/** More than anybody looks through. */
const MOST_TO_CHOOSE = 500

/** Somewhere vans start from, by its coordinates or those of a site. */
export function NewBase({ places }: { places: Times['places'] }) {
  const [open, setOpen] = useState(false)
  const [name, setName] = useState('')
  const [at, setAt] = useState('')
  const [tried, setTried] = useState(false)
  const [problem, setProblem] = useState<string | null>(null)
  const taken = places.some((place) => place.name === name.trim() && place.island === '')
  const position = positionOf(at)
  const sites = useSites(open).data?.sites ?? []
  const placed = sites
    .flatMap(({ id, name: site, lat, lon }) => (lat == null || lon == null ? [] : [{ id, name: site, lat, lon }]))
    .slice(0, MOST_TO_CHOOSE)
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
      setProblem(error instanceof Error ? error.message : say`It could not be saved.`)
    }
  }
  if (!open)
    return (
      <View className="self-start">
        <Button label={say`Add a base`} onPress={() => setOpen(true)} />
      </View>
    )
  return (
    <View className="gap-3 rounded-card border-2 border-line bg-sheet p-4">
      <T kind="heading" level={2}>
        {say`New base`}
      </T>
      <Field
        label={say`Name of the base`}
        value={name}
        onChangeText={setName}
        maxLength={80}
        error={tried && name.trim() === '' ? say`Name is required` : taken ? say`There is a base of this name` : undefined}
      />
      <PositionField
        label={say`Where it is`}
        value={at}
        onChange={setAt}
        error={positionProblem(at) ?? (tried && at.trim() === '' ? say`Coordinates are required` : undefined)}
      />
      {placed.length > 0 ? (
        <Select
          label={say`Or where one of your sites is`}
          none={say`Choose a site`}
          value=""
          groups={[{ label: say`Sites`, options: placed.map(({ id, name: site }) => ({ value: id, label: site })) }]}
          onChange={(id) => {
            const site = placed.find((one) => one.id === id)
            if (!site) return
            setAt(formatPosition(site))
            if (name.trim() === '') setName(site.name)
          }}
        />
      ) : null}
      {problem ? (
        <T role="alert" className="text-oxblood">
          {problem}
        </T>
      ) : null}
      <View className="flex-row gap-3">
        <Button label={say`Cancel`} onPress={() => setOpen(false)} />
        <Button label={say`Add this base`} kind="act" grow onPress={() => void save()} />
      </View>
    </View>
  )
}
