import { isIsoDay, parseQuantity, type ShownUnits, unitOf } from '@evenround/core/units'
import { say } from '@evenround/core/words'
import * as z from 'zod/mini'
import { localDecimal } from '../../ui/locale'

/** What people type, as schemas: each turns text into what it means, and says in words why it cannot. */

export const requiredLine = (most: number, message = say`Name is required`) =>
  z.string().check(z.trim(), z.minLength(1, message), z.maxLength(most))

interface Figure {
  least: number
  most: number
  /** The least itself is not allowed. */
  above?: boolean
  whole?: boolean
  message: string
  /** Litres in the firm's unit; any other unit can be typed after the number. */
  volume?: ShownUnits
}

function read(text: string, { least, most, above = false, whole = false, volume }: Figure): number | null | 'wrong' {
  const by = (decimal: '.' | ',') =>
    parseQuantity(text, {
      dimension: volume ? 'volume' : 'number',
      decimal,
      ...(volume ? { gallon: volume.gallon, unit: unitOf('volume', volume).parse } : {}),
    })
  const own = localDecimal()
  const first = by(own)
  // "51,30" on a device that writes a point can mean one thing only.
  const parsed = first.ok || first.reason !== 'not-a-number' ? first : by(own === '.' ? ',' : '.')
  if (!parsed.ok) return parsed.reason === 'empty' ? null : 'wrong'
  const { value } = parsed
  const low = above ? value <= least : value < least
  return low || value > most || (whole && !Number.isInteger(value)) ? 'wrong' : value
}

/** A figure, null where the field is empty. */
export const optionalFigure = (figure: Figure) =>
  z.pipe(
    z.string().check(z.refine((text) => read(text, figure) !== 'wrong', figure.message)),
    z.transform((text) => read(text, figure) as number | null),
  )

/** A figure that has to be there. */
export const requiredFigure = (figure: Figure) =>
  z.pipe(
    z.string().check(z.refine((text) => typeof read(text, figure) === 'number', figure.message)),
    z.transform((text) => read(text, figure) as number),
  )

/** A calendar day, empty where it may be left open. */
export const day = (message = say`Choose the day`) => z.string().check(z.refine((text) => text === '' || isIsoDay(text), message))
export const requiredDay = (message = say`Choose the day`) => z.string().check(z.refine(isIsoDay, message))

/** Money as people type it, in the smallest coin: "16.80" is 1680. */
export const price = (message = say`A price such as 16.80`) =>
  z.pipe(
    requiredFigure({ least: 0, most: 1e7, message }),
    z.transform((coins) => Math.round(coins * 100)),
  )

/** What a form means as a whole, or what is wrong with it by field: for what no field can say alone. */
export const readWhole = <Typed extends object, Read>(
  read: (typed: Typed) => { read: Read } | { problems: Partial<Record<keyof Typed, string>> },
) =>
  z.pipe(
    z.custom<Typed>().check((typed) => {
      const found = read(typed.value)
      if ('problems' in found)
        for (const [name, message] of Object.entries(found.problems))
          typed.issues.push({ code: 'custom', input: typed.value, path: [name], message: String(message) })
    }),
    z.transform((typed) => {
      const found = read(typed as Typed)
      if ('problems' in found) throw new TypeError('what was checked has no problems')
      return found.read
    }),
  )
