import { HOUSINGS, MEDIA } from '@evenround/core/catalogue'
import { isIsoDay } from '@evenround/core/units'
import { z } from 'zod'

export const idSchema = z.uuid()
export const daySchema = z.string().refine(isIsoDay, 'expected a calendar day, YYYY-MM-DD')
export const instantSchema = z.iso.datetime({ offset: false })
/** Versions fit a database integer with room to count on. */
export const versionSchema = z.int().min(1).max(2_000_000_000)

export const mediumSchema = z.enum(MEDIA)
export const housingSchema = z.enum(HOUSINGS)
export const waterSourceSchema = z.enum(['municipal', 'drilled-well', 'shallow-well', 'surface', 'roof'])
export const foundSchema = z.enum(['as-new', 'light', 'as-expected', 'heavy', 'spent'])
export const actionSchema = z.enum(['change', 'wash', 'refill', 'clean'])
export const holdKindSchema = z.enum(['low-flow', 'ice', 'first-tank', 'boil-or-bottled', 'do-not-drink', 'do-not-use'])

/** One line of text a person types: trimmed, never only blanks. */
export const lineSchema = (most: number) => z.string().trim().min(1).max(most)
/** Free text that may be empty. */
export const textSchema = (most: number) => z.string().trim().max(most)
