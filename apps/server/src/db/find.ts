import type { DataSource } from 'typeorm'
import { type EntityMetadata, FindOperator } from 'typeorm'

interface Asked {
  sql: string
  params: unknown[]
}

const quoted = (name: string): string => `"${name}"`

/** What one property has to be, in SQL: a value, one of some, between two, or nothing. */
function conditionOf(column: string, wanted: unknown, params: unknown[]): string {
  const place = (value: unknown): string => `$${params.push(value)}`
  if (!(wanted instanceof FindOperator)) return wanted === null ? `${column} is null` : `${column} = ${place(wanted)}`
  const { type, value } = wanted as FindOperator<unknown>
  if (type === 'in') return `${column} = any(${place(value)})`
  if (type === 'isNull') return `${column} is null`
  if (type === 'moreThanOrEqual') return `${column} >= ${place(value)}`
  if (type === 'between') {
    const [from, to] = value as [unknown, unknown]
    return `${column} between ${place(from)} and ${place(to)}`
  }
  throw new RangeError(`no such condition here: ${type}`)
}

/** A look into one table, all its columns by their properties' names: what the mapper asks, for a fraction of what it takes to ask so. */
export function findSql(
  metadata: EntityMetadata,
  where: Readonly<Record<string, unknown>>,
  order: Readonly<Record<string, string>>,
  limit?: number,
): Asked {
  const params: unknown[] = []
  const columnOf = (property: string): string => {
    const column = metadata.findColumnWithPropertyName(property)
    if (!column) throw new RangeError(`${metadata.tableName} has no ${property}`)
    return quoted(column.databaseName)
  }
  const conditions = Object.entries(where).flatMap(([property, wanted]) =>
    wanted === undefined ? [] : [conditionOf(columnOf(property), wanted, params)],
  )
  const columns = metadata.columns
    .filter(({ isSelect }) => isSelect)
    .map(({ databaseName, propertyName }) => `${quoted(databaseName)} as ${quoted(propertyName)}`)
  const sorted = Object.entries(order).map(([property, way]) => `${columnOf(property)} ${way === 'DESC' ? 'desc' : 'asc'}`)
  return {
    sql: [
      `select ${columns.join(', ')} from ${quoted(metadata.tableName)}`,
      conditions.length > 0 ? `where ${conditions.join(' and ')}` : '',
      sorted.length > 0 ? `order by ${sorted.join(', ')}` : '',
      limit === undefined ? '' : `limit ${limit}`,
    ].join(' '),
    params,
  }
}

/** Rows as the mapper hands them out: each value as its column says. */
export function asEntities<E>({ driver }: DataSource, { columns }: EntityMetadata, rows: Record<string, unknown>[]): E[] {
  const some = columns.filter(({ isSelect }) => isSelect)
  for (const row of rows)
    for (const column of some) row[column.propertyName] = driver.prepareHydratedValue(row[column.propertyName], column)
  return rows as E[]
}

/** A parameter as the text that the database reads it from; undefined for bytes, and for a sign (NUL) that would end the message. */
function textOf(value: unknown): string | null | undefined {
  if (value === null || value === undefined) return null
  if (Buffer.isBuffer(value)) return undefined
  if (value instanceof Date) return value.toISOString()
  if (Array.isArray(value)) {
    const parts = value.map(textOf)
    if (parts.includes(undefined)) return undefined
    return `{${parts.map((part) => (part === null || part === undefined ? 'null' : `"${part.replaceAll(/[\\"]/g, '\\$&')}"`)).join(',')}}`
  }
  const text = typeof value === 'object' ? JSON.stringify(value) : String(value)
  return text.includes('\0') ? undefined : text
}

/**
 * A text as a literal (PostgreSQL, "String Constants with C-style Escapes"). As the driver's own does it, which goes sign by sign and
 * took longer over a batch of ticks than anything else.
 */
export function literalOf(text: string): string {
  const quoted = text.replaceAll("'", "''")
  return text.includes('\\') ? ` E'${quoted.replaceAll('\\', '\\\\')}'` : `'${quoted}'`
}

/** A statement with its parameters written into it as literals, so that several go in one message; null where one of them cannot be. */
export function written({ sql, params }: { sql: string; params: readonly unknown[] }): string | null {
  const literals = params.map((value) => {
    const text = textOf(value)
    return text === undefined ? undefined : text === null ? 'null' : literalOf(text)
  })
  if (literals.includes(undefined)) return null
  return sql.replaceAll(/\$(\d+)/g, (_, place) => {
    const literal = literals[Number(place) - 1]
    if (literal === undefined) throw new RangeError(`there is no parameter ${place}`)
    return literal
  })
}
