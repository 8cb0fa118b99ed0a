import type { Field, Fields, FieldType, RecordOf, TypeOf } from '@evenround/core/records'
import { z } from 'zod'
import { idSchema, instantSchema, lineSchema, mediumSchema, textSchema, versionSchema, workDaySchema } from './common'

/** Schemas of the fields that are kept as JSON, by their names. */
export type JsonSchemas = Readonly<Record<string, z.ZodType>>

function plain(type: FieldType, json: JsonSchemas): z.ZodType {
  switch (type.is) {
    case 'id':
      return idSchema
    case 'version':
      return versionSchema
    case 'line':
      return lineSchema(type.most)
    case 'text':
      return textSchema(type.most)
    case 'number':
      return type.above ? z.number().gt(type.least).max(type.most) : z.number().min(type.least).max(type.most)
    case 'whole':
      return z.int().min(type.least).max(type.most)
    case 'flag':
      return z.boolean()
    case 'one-of':
      return z.enum(type.values)
    case 'medium':
      return mediumSchema
    case 'number-of':
      return z.literal(type.values)
    case 'instant':
      return instantSchema
    case 'day':
      return workDaySchema
    case 'group':
      return z.object(shapeOf(type.fields, json))
    case 'json': {
      const schema = json[type.schema]
      if (!schema) throw new RangeError(`no schema is named ${type.schema}`)
      return schema
    }
  }
}

function schemaOf({ type, nullable, otherwise }: Field<unknown>, json: JsonSchemas): z.ZodType {
  const schema = nullable ? plain(type, json).nullable() : plain(type, json)
  return otherwise === undefined ? schema : schema.default(otherwise)
}

type ShapeOf<F extends Fields> = { [N in keyof F]: z.ZodType<TypeOf<F[N]>> }

/** The shape of a Zod object for these fields. */
export const shapeOf = <const F extends Fields>(fields: F, json: JsonSchemas = {}): ShapeOf<F> =>
  Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, schemaOf(field, json)])) as ShapeOf<F>

/** A Zod object for these fields. */
export const objectOf = <const F extends Fields>(fields: F, json: JsonSchemas = {}): z.ZodType<RecordOf<F>> =>
  z.object(shapeOf(fields, json)) as z.ZodType<RecordOf<F>>
