import { type CleanedWhere, type CustomAdapter, createAdapterFactory } from 'better-auth/adapters'
import type { EntityManager } from 'typeorm'
import type { InAuthScope } from '../db/scope'

type Row = Record<string, unknown>

const snake = (field: string): string => field.replace(/[A-Z]/g, (letter) => `_${letter.toLowerCase()}`)
const camel = (column: string): string => column.replace(/_([a-z])/g, (_, letter: string) => letter.toUpperCase())
const outward = (row: Row): Row => Object.fromEntries(Object.entries(row).map(([column, value]) => [camel(column), value]))

const NAME = /^[a-z_]+$/
/** Names come from the library's own schema; anything else would be a wiring mistake. */
function name(text: string): string {
  const column = snake(text)
  if (!NAME.test(column)) throw new RangeError(`not a column name: ${text}`)
  return `"${column}"`
}

const COMPARE: Partial<Record<CleanedWhere['operator'], string>> = { eq: '=', ne: '<>', lt: '<', lte: '<=', gt: '>', gte: '>=' }

function condition({ field, operator, value }: CleanedWhere, values: unknown[]): string {
  const column = name(field)
  if (value === null) return operator === 'ne' ? `${column} is not null` : `${column} is null`
  values.push(value)
  const slot = `$${values.length}`
  if (operator === 'in') return `${column}::text = any(${slot}::text[])`
  if (operator === 'not_in') return `not (${column}::text = any(${slot}::text[]))`
  const sign = COMPARE[operator]
  if (!sign) throw new RangeError(`operator not in use here: ${operator}`)
  return `${column} ${sign} ${slot}`
}

function whereSql(where: readonly CleanedWhere[] | undefined, values: unknown[]): string {
  if (!where || where.length === 0) return ''
  const parts = where.map((one, index) => `${index === 0 ? '' : `${one.connector} `}${condition(one, values)}`)
  return ` where ${parts.join(' ')}`
}

/** `UPDATE … RETURNING` and `DELETE … RETURNING` come back as [rows, count]. */
const changed = (result: unknown): { rows: Row[]; count: number } => {
  const [rows, count] = result as [Row[], number]
  return { rows, count }
}

function setSql(update: Row, values: unknown[]): string {
  return Object.entries(update)
    .map(([field, value]) => {
      values.push(value)
      return `${name(field)} = $${values.length}`
    })
    .join(', ')
}

function operations(run: <T>(work: (manager: EntityManager) => Promise<T>) => Promise<T>) {
  const query = (sql: string, values: unknown[]) => run((manager) => manager.query(sql, values))
  const select = async (model: string, where: readonly CleanedWhere[] | undefined, tail: string): Promise<Row[]> => {
    const values: unknown[] = []
    const rows: Row[] = await query(`select * from ${name(model)}${whereSql(where, values)}${tail}`, values)
    return rows.map(outward)
  }
  return {
    create: async ({ model, data }: { model: string; data: Row }) => {
      const values = Object.values(data)
      const columns = Object.keys(data).map(name).join(', ')
      const slots = values.map((_, index) => `$${index + 1}`).join(', ')
      const rows: Row[] = await query(`insert into ${name(model)} (${columns}) values (${slots}) returning *`, values)
      return outward(rows[0] ?? {})
    },
    findOne: async ({ model, where }: { model: string; where: CleanedWhere[] }) => (await select(model, where, ' limit 1'))[0] ?? null,
    findMany: ({
      model,
      where,
      limit,
      offset,
      sortBy,
    }: {
      model: string
      where?: CleanedWhere[] | undefined
      limit: number
      offset?: number | undefined
      sortBy?: { field: string; direction: 'asc' | 'desc' } | undefined
    }) => {
      const order = sortBy ? ` order by ${name(sortBy.field)} ${sortBy.direction === 'desc' ? 'desc' : 'asc'}` : ''
      return select(model, where, `${order} limit ${Number(limit)} offset ${Number(offset ?? 0)}`)
    },
    count: async ({ model, where }: { model: string; where?: CleanedWhere[] | undefined }) => {
      const values: unknown[] = []
      const rows: { count: string }[] = await query(`select count(*) from ${name(model)}${whereSql(where, values)}`, values)
      return Number(rows[0]?.count ?? 0)
    },
    update: async ({ model, where, update }: { model: string; where: CleanedWhere[]; update: Row }) => {
      const values: unknown[] = []
      const set = setSql(update, values)
      const { rows } = changed(await query(`update ${name(model)} set ${set}${whereSql(where, values)} returning *`, values))
      return rows[0] ? outward(rows[0]) : null
    },
    updateMany: async ({ model, where, update }: { model: string; where: CleanedWhere[]; update: Row }) => {
      const values: unknown[] = []
      const set = setSql(update, values)
      return changed(await query(`update ${name(model)} set ${set}${whereSql(where, values)}`, values)).count
    },
    /** Taken and gone in one statement: of two that ask at once one has it. */
    consumeOne: async ({ model, where }: { model: string; where: CleanedWhere[] }) => {
      const values: unknown[] = []
      const { rows } = changed(
        await query(
          `delete from ${name(model)} where ctid = (select ctid from ${name(model)}${whereSql(where, values)} limit 1 for update) returning *`,
          values,
        ),
      )
      return rows[0] ? outward(rows[0]) : null
    },
    incrementOne: async ({
      model,
      where,
      increment,
      set = {},
    }: {
      model: string
      where: CleanedWhere[]
      increment: Record<string, number>
      set?: Row | undefined
    }) => {
      const values: unknown[] = []
      const more = Object.entries(increment).map(([field, by]) => {
        values.push(by)
        return `${name(field)} = coalesce(${name(field)}, 0) + $${values.length}`
      })
      const sets = [...more, ...(Object.keys(set).length > 0 ? [setSql(set, values)] : [])].join(', ')
      const { rows } = changed(await query(`update ${name(model)} set ${sets}${whereSql(where, values)} returning *`, values))
      return rows[0] ? outward(rows[0]) : null
    },
    delete: async ({ model, where }: { model: string; where: CleanedWhere[] }) => {
      const values: unknown[] = []
      await query(`delete from ${name(model)}${whereSql(where, values)}`, values)
    },
    deleteMany: async ({ model, where }: { model: string; where: CleanedWhere[] }) => {
      const values: unknown[] = []
      return changed(await query(`delete from ${name(model)}${whereSql(where, values)}`, values)).count
    },
  }
}

/** The sign-in library's storage, on the same connection pool and behind the same door as everything else. */
export const authAdapter = (inAuthScope: InAuthScope) =>
  createAdapterFactory({
    config: { adapterId: 'even-round', supportsDates: true, supportsBooleans: true, supportsUUIDs: true, transaction: false },
    adapter: () => operations(inAuthScope) as CustomAdapter,
  })
