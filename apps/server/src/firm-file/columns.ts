import type { EntityManager } from 'typeorm'

export interface Column {
  name: string
  type: string
  nullable: boolean
}

/** The columns of a table of this installation, in their order. */
export async function columnsOf(manager: EntityManager, table: string): Promise<Column[]> {
  const rows: { name: string; type: string; nullable: boolean }[] = await manager.query(
    `select a.attname as name, format_type(a.atttypid, null) as type, not a.attnotnull as nullable
     from pg_attribute a where a.attrelid = to_regclass($1) and a.attnum > 0 and not a.attisdropped and a.attgenerated = '' order by a.attnum`,
    [`public.${table}`],
  )
  return rows
}

const JSON_TYPE: Record<string, object> = {
  uuid: { type: 'string', format: 'uuid' },
  text: { type: 'string' },
  integer: { type: 'integer' },
  smallint: { type: 'integer' },
  bigint: { type: 'integer' },
  'double precision': { type: 'number' },
  real: { type: 'number' },
  numeric: { type: 'number' },
  boolean: { type: 'boolean' },
  date: { type: 'string', format: 'date' },
  'timestamp with time zone': { type: 'string', format: 'date-time' },
  json: {},
  jsonb: {},
}

function typeOf(type: string): object {
  if (type.endsWith('[]')) return { type: 'array', items: typeOf(type.slice(0, -2)) }
  const known = JSON_TYPE[type]
  if (known === undefined) throw new Error(`No JSON type is known for ${type}: name it in columns.ts.`)
  return known
}

const orNull = (schema: object): object => ('type' in schema ? { ...schema, type: [schema.type, 'null'] } : schema)

/** The published description of a line of a table, as JSON Schema. */
export const schemaOf = (table: string, title: string, columns: readonly Column[]): object => ({
  $schema: 'https://json-schema.org/draft/2020-12/schema',
  title: table,
  description: title,
  type: 'object',
  additionalProperties: false,
  required: columns.map(({ name }) => name),
  properties: Object.fromEntries(columns.map(({ name, type, nullable }) => [name, nullable ? orNull(typeOf(type)) : typeOf(type)])),
})
