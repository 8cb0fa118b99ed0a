import { HOUSINGS, MEDIA, type OwnMedium } from '@evenround/core/catalogue'
import { HOLD_KINDS, VERBS } from '@evenround/core/train'
import { isIsoDay } from '@evenround/core/units'
import { WATER_SOURCES } from '@evenround/core/wear'
import { say } from '@evenround/core/words'
import { z } from 'zod'

export const idSchema = z.uuid()
export const daySchema = z.string().refine(isIsoDay, { error: () => say`expected a calendar day, YYYY-MM-DD` })
/** No work and no plan lies outside of these years: a device's clock that says so is not set. */
const FIRST_YEAR = '2000'
const YEAR_AFTER_LAST = '2100'
/** A day that people write down or plan. */
export const workDaySchema = daySchema.refine((day) => day >= FIRST_YEAR && day < YEAR_AFTER_LAST, {
  error: () => say`expected a day from ${FIRST_YEAR} to before ${YEAR_AFTER_LAST}`,
})
/** An instant as it is stored: ISO UTC, of a year that a calendar of work can have. */
export const instantSchema = z.iso
  .datetime({ offset: false, abort: true })
  .refine((instant) => instant >= FIRST_YEAR && instant < YEAR_AFTER_LAST, {
    error: () => say`expected an instant from ${FIRST_YEAR} to before ${YEAR_AFTER_LAST}`,
  })
/** Versions fit a database integer with room to count on. */
export const versionSchema = z.int().min(1).max(2_000_000_000)

/** Characters no text may hold: control characters (scanned codes bring them along) and halves of characters, which cannot be stored. */
const NOT_IN_LINE = /[\p{Cc}\p{Cs}]/u
const NOT_IN_TEXT = /(?![\n\r\t])[\p{Cc}\p{Cs}]/u
const WITHOUT_CONTROLS = () => say`expected text without control characters`

export const standardMediumSchema = z.enum(MEDIA)
/** The id of a kind that the firm named itself: `own:` and its name. */
export const ownMediumSchema = z
  .string()
  .max(64)
  .regex(/^own:\S(.*\S)?$/u, { error: () => say`expected own: and a name` })
  .refine((text) => !NOT_IN_LINE.test(text), WITHOUT_CONTROLS()) as unknown as z.ZodType<OwnMedium, OwnMedium>
export const mediumSchema = z.union([standardMediumSchema, ownMediumSchema])
export const housingSchema = z.enum(HOUSINGS)
export const waterSourceSchema = z.enum(WATER_SOURCES)
export const foundSchema = z.enum(['as-new', 'light', 'as-expected', 'heavy', 'spent'])
export const actionSchema = z.enum(['change', 'wash', 'refill', 'clean'])
export const verbSchema = z.enum(VERBS)
export const holdKindSchema = z.enum(HOLD_KINDS)

/** One line of text a person types: trimmed, never only blanks, no control characters. */
export const lineSchema = (most: number) =>
  z
    .string()
    .trim()
    .min(1)
    .max(most)
    .refine((text) => !NOT_IN_LINE.test(text), WITHOUT_CONTROLS())
/** Free text that may be empty and may have lines and tabs, no other control characters. */
export const textSchema = (most: number) =>
  z
    .string()
    .trim()
    .max(most)
    .refine((text) => !NOT_IN_TEXT.test(text), WITHOUT_CONTROLS())
