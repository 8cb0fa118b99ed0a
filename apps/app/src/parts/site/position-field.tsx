import { formatPosition, type Position, parsePosition } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import { OpenLocationCode } from 'open-location-code'
import { useState } from 'react'
import { View } from 'react-native'
import { Button } from '../../ui/button'
import { Field } from '../../ui/field'
import { later } from '../../ui/later'

const codes = new OpenLocationCode()

/** A position as somebody typed or pasted it: coordinates in any common writing, or a whole open location code. */
export function positionOf(text: string): Position | null {
  const plain = parsePosition(text)
  if (plain) return plain
  const code = text.trim().toUpperCase()
  if (!codes.isValid(code) || !codes.isFull(code)) return null
  const { latitudeCenter, longitudeCenter } = codes.decode(code)
  return { lat: latitudeCenter, lon: longitudeCenter }
}

/** What is wrong with a typed position; nothing where it is empty or one. */
export const positionProblem = (text: string): string | undefined =>
  text.trim() === '' || positionOf(text) !== null
    ? undefined
    : say`Type latitude and longitude, such as 58.31, -21.62, or a whole open location code`

const PATIENCE_MS = 20_000
const REFUSED = 1
const said = ({ code }: GeolocationPositionError): string =>
  code === REFUSED
    ? say`This device does not say where it is: allow it in the browser, or type the coordinates.`
    : say`No position found here. Try outdoors, or type the coordinates.`

const PinMap = later(async () => (await import('../map/pin-map')).PinMap)
const FirmPinMap = later(async () => (await import('../map/firm-pin-map')).FirmPinMap)
const NOWHERE: readonly Position[] = []

interface PositionFieldProps {
  label: string
  value: string
  onChange: (text: string) => void
  error?: string | undefined
  hint?: string
  /** Nobody is in yet: the map knows no sites of the firm. */
  signedOut?: boolean
}

/** Where something is: typed, pasted, or where this device stands. */
export function PositionField({ label, value, onChange, error, hint, signedOut = false }: PositionFieldProps) {
  const [onMap, setOnMap] = useState(false)
  const [looking, setLooking] = useState(false)
  const [problem, setProblem] = useState<string | undefined>(undefined)
  const here = (): void => {
    setProblem(undefined)
    if (!('geolocation' in navigator)) {
      setProblem(say`This device does not say where it is: type the coordinates.`)
      return
    }
    setLooking(true)
    navigator.geolocation.getCurrentPosition(
      ({ coords }) => {
        setLooking(false)
        onChange(formatPosition({ lat: coords.latitude, lon: coords.longitude }))
      },
      (failed) => {
        setLooking(false)
        setProblem(said(failed))
      },
      { enableHighAccuracy: true, timeout: PATIENCE_MS, maximumAge: 60_000 },
    )
  }
  return (
    <View className="gap-2">
      <Field
        label={label}
        value={value}
        onChangeText={(text) => {
          setProblem(undefined)
          onChange(text)
        }}
        hint={hint ?? say`Coordinates or an open location code`}
        error={error ?? problem}
        autoCapitalize="characters"
        autoCorrect={false}
        maxLength={60}
      />
      <View className="flex-row flex-wrap gap-2">
        <Button label={looking ? say`Looking …` : say`Use where I am`} disabled={looking} onPress={here} />
        <Button label={onMap ? say`Close the map` : say`Choose on a map`} onPress={() => setOnMap(!onMap)} />
      </View>
      {onMap ? (
        signedOut ? (
          <PinMap value={positionOf(value)} onChange={(at) => onChange(formatPosition(at))} around={NOWHERE} />
        ) : (
          <FirmPinMap value={positionOf(value)} onChange={(at) => onChange(formatPosition(at))} />
        )
      ) : null}
    </View>
  )
}
