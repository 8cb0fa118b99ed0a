/**
 * What a field of a record may hold. From this the schema at the door, the column in the database and the type in TypeScript follow:
 * a field is written down once.
 */
export type FieldType =
  | { is: 'id' }
  | { is: 'version' }
  /** One line of text, never only blanks. */
  | { is: 'line'; most: number }
  /** Free text, may be empty. */
  | { is: 'text'; most: number }
  /** `above` excludes its limit, `least` includes it. */
  | { is: 'number'; least: number; most: number; above: boolean }
  | { is: 'whole'; least: number; most: number }
  | { is: 'flag' }
  | { is: 'one-of'; values: readonly string[] }
  /** Of our media, or a kind that the firm named itself. */
  | { is: 'medium' }
  | { is: 'number-of'; values: readonly number[] }
  /** ISO UTC. */
  | { is: 'instant' }
  /** ISO day. */
  | { is: 'day' }
  /** Kept as JSON, by the schema of this name. */
  | { is: 'json'; schema: string }
  /** Fields of their own that belong together; a column each, the group's name before theirs. */
  | { is: 'group'; fields: Fields }

export interface Field<T> {
  readonly type: FieldType
  readonly nullable: boolean
  /** What it is taken for where an older client leaves it out. */
  readonly otherwise?: T
  /** Only for the compiler: what the field holds. */
  readonly holds?: T
}
export type Fields = Readonly<Record<string, Field<unknown>>>
export type TypeOf<F> = F extends Field<infer T> ? T : never
/** The record that these fields make. */
export type RecordOf<F extends Fields> = { -readonly [N in keyof F]: TypeOf<F[N]> }

const field = <T>(type: FieldType): Field<T> => ({ type, nullable: false })

export const id = field<string>({ is: 'id' })
export const version = field<number>({ is: 'version' })
export const flag = field<boolean>({ is: 'flag' })
export const instant: Field<string> & { readonly type: { is: 'instant' } } = { type: { is: 'instant' }, nullable: false }
export const day = field<string>({ is: 'day' })
export const line = (most: number): Field<string> => field({ is: 'line', most })
export const text = (most: number): Field<string> => field({ is: 'text', most })
/** A number from `least` to `most`, both included. */
export const number = (least: number, most: number) => {
  const type = { is: 'number' as const, least, most, above: false }
  return { type, nullable: false } as Field<number> & { readonly type: typeof type }
}
/** A number above `least`, up to `most`. */
export const above = (least: number, most: number): Field<number> => field({ is: 'number', least, most, above: true })
export const whole = (least: number, most: number): Field<number> => field({ is: 'whole', least, most })
export const oneOf = <const V extends string>(...values: readonly V[]): Field<V> => field({ is: 'one-of', values })
export const numberOf = <const V extends number>(...values: readonly V[]): Field<V> => field({ is: 'number-of', values })
export const json = <T>(schema: string): Field<T> => field({ is: 'json', schema })
export const group = <const F extends Fields>(fields: F) => {
  const type = { is: 'group' as const, fields }
  return { type, nullable: false } as Field<RecordOf<F>> & { readonly type: typeof type }
}
/** The field, or null where it does not apply. */
export const nullable = <T, Y extends FieldType>({ type }: Field<T> & { readonly type: Y }): Field<T | null> & { readonly type: Y } => ({
  type,
  nullable: true,
})
export const otherwise = <T, Y extends FieldType>(
  value: NoInfer<T>,
  { type, nullable: empty }: Field<T> & { readonly type: Y },
): Field<T> & { readonly type: Y } => ({ type, nullable: empty, otherwise: value })
