import type { Field, Fields, RecordOf, TypeOf } from '@evenround/core/records'
import { Column, type EntitySchemaColumnOptions } from 'typeorm'
import { snake } from './naming'

/** How each type of field is kept. */
const KEPT = {
  id: 'uuid',
  version: 'int',
  line: 'text',
  text: 'text',
  number: 'double precision',
  whole: 'int',
  flag: 'boolean',
  'one-of': 'text',
  medium: 'text',
  'number-of': 'double precision',
  instant: 'timestamptz',
  day: 'text',
  json: 'jsonb',
} as const

/** A field as a row has it: under this property, in this column. */
export interface RowField {
  property: string
  column: string
  field: Field<unknown>
  /** Where its value stands in the record: its name, or its group's and its own. */
  path: readonly [string] | readonly [group: string, name: string]
}

const pascal = (name: string): string => `${name.charAt(0).toUpperCase()}${name.slice(1)}`

/** A table's fields never change: they are laid out once. */
const laidOut = new WeakMap<Fields, readonly RowField[]>()

/** The fields of a record as its table has them; those of a group one by one, the group's name before theirs. */
export function rowFields(fields: Fields): readonly RowField[] {
  let known = laidOut.get(fields)
  if (known === undefined) {
    known = layOut(fields)
    laidOut.set(fields, known)
  }
  return known
}

const layOut = (fields: Fields): RowField[] =>
  Object.entries(fields).flatMap(([name, field]): RowField[] => {
    if (field.type.is !== 'group') return [{ property: name, column: snake(name), field, path: [name] }]
    return Object.entries(field.type.fields).map(([own, inner]) => {
      const property = `${name}${pascal(own)}`
      return { property, column: snake(property), field: inner, path: [name, own] }
    })
  })

/** The mapper's columns for these fields. */
export const columnsOf = (fields: Fields): Record<string, EntitySchemaColumnOptions> =>
  Object.fromEntries(
    rowFields(fields).map(({ property, field }) => {
      if (field.type.is === 'group') throw new RangeError(`${property} is a group within a group`)
      return [property, { type: KEPT[field.type.is], nullable: field.nullable }]
    }),
  )

const asKept = ({ type }: Field<unknown>, value: unknown): unknown =>
  type.is === 'instant' && typeof value === 'string' ? new Date(value) : value
const asSent = ({ type }: Field<unknown>, value: unknown): unknown =>
  type.is === 'instant' && value instanceof Date ? value.toISOString() : value
const at = (record: unknown, [first, second]: RowField['path']): unknown => {
  const value: unknown = Reflect.get(Object(record), first)
  return second === undefined ? value : Reflect.get(Object(value), second)
}

/** A record's values by the properties of its row. */
export function toRow(fields: Fields, record: object): Record<string, unknown> {
  const row: Record<string, unknown> = {}
  for (const { property, field, path } of rowFields(fields)) row[property] = asKept(field, at(record, path))
  return row
}

/** A row's values as the record has them. */
export function fromRow(fields: Fields, row: object): Record<string, unknown> {
  const record: Record<string, unknown> = {}
  for (const { property, field, path } of rowFields(fields)) {
    const value = asSent(field, Reflect.get(row, property))
    const [first, second] = path
    if (second === undefined) record[first] = value
    else record[first] = { ...Object(record[first]), [second]: value }
  }
  return record
}

/** These fields of a table's alias for a query of our own, under the names the code has for them. */
export const selected = (fields: Fields, alias: string): string =>
  rowFields(fields)
    .map(({ property, column }) => `${alias}.${column} as "${property}"`)
    .join(', ')

type Together<U> = (U extends unknown ? (one: U) => void : never) extends (all: infer A) => void ? A : never
type Cell<F> = F extends { readonly type: { is: 'instant' } } ? (F extends Field<infer T> ? Date | Extract<T, null> : never) : TypeOf<F>
/** A row of these fields: instants as dates, those of a group one by one. */
export type RowOf<F extends Fields> = Together<
  {
    [N in keyof F & string]: F[N] extends { readonly type: { readonly is: 'group' } }
      ? { [M in keyof TypeOf<F[N]> & string as `${N}${Capitalize<M>}`]: TypeOf<F[N]>[M] }
      : { [P in N]: Cell<F[N]> }
  }[keyof F & string]
>

type Made<T> = abstract new () => T

/** A table's class with these fields beside what `Base` keeps; further columns stand in the class that extends it. */
export function keeping<T extends object, const F extends Fields>(Base: Made<T>, fields: F): Made<T & RowOf<F>> {
  abstract class Keeping extends (Base as Made<object>) {}
  for (const [property, options] of Object.entries(columnsOf(fields))) Column({ ...options })(Keeping.prototype, property)
  return Keeping as Made<object> as Made<T & RowOf<F>>
}

/** What a row holds of these fields, as the program speaks of it. */
export const recordOf = <const F extends Fields>(fields: F, row: RowOf<F>): RecordOf<F> => fromRow(fields, Object(row)) as RecordOf<F>
/** A record's values by the properties of its row. */
export const rowOf = <const F extends Fields>(fields: F, record: RecordOf<F>): RowOf<F> => toRow(fields, record) as RowOf<F>
