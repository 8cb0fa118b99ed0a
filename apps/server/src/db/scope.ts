import type { Role } from '@evenround/core/firm'
import type { Pool } from 'pg'
import type { DataSource, EntityManager, EntityTarget, FindOptionsOrder, FindOptionsWhere, QueryDeepPartialEntity } from 'typeorm'
import type { FirmRow } from './entities/master'
import { TooManyWaiting } from './errors'
import { asEntities, findSql, written } from './find'

const ROWS_A_STATEMENT = 1000

export interface Insertion {
  sql: string
  /** The rows, for the parameter that `sql` reads them from. */
  json: string
}

/** The rows of one table of a firm as JSON, and the insert that reads them from the parameter at `place`. Columns that no row names take their default. */
function insertionOf(source: DataSource, firmId: string, entity: EntityTarget<FirmRow>, rows: readonly object[], place: number): Insertion {
  const { columns, tableName } = source.getMetadata(entity)
  const used = columns.filter(({ propertyName }) => propertyName === 'firmId' || rows.some((row) => propertyName in row))
  const names = used.map(({ databaseName }) => databaseName).join(', ')
  const keys = used.map(({ databaseName, propertyName }) => [databaseName, propertyName] as const)
  const named = (row: Record<string, unknown>): Record<string, unknown> => {
    const own: Record<string, unknown> = {}
    for (const [column, property] of keys) own[column] = property === 'firmId' ? firmId : row[property]
    return own
  }
  return {
    sql: `insert into ${tableName} (${names}) select ${names} from json_populate_recordset(null::${tableName}, $${place}::json)`,
    json: JSON.stringify(rows.map((row) => named(row as Record<string, unknown>))),
  }
}

/**
 * One firm's view of the database inside one transaction. Every read and write of the server goes through here,
 * so the firm is put into every query in one place; row-level security is the second lock behind it.
 */
export class FirmScope {
  private readonly asked: Asked[] = []

  constructor(
    readonly manager: EntityManager,
    readonly firmId: string,
  ) {}

  private own<E extends FirmRow>(where: FindOptionsWhere<E>): FindOptionsWhere<E> {
    return { ...where, firmId: this.firmId } as FindOptionsWhere<E>
  }

  async find<E extends FirmRow>(entity: EntityTarget<E>, where: FindOptionsWhere<E> = {}, order: FindOptionsOrder<E> = {}): Promise<E[]> {
    return this.look(entity, where, order as Record<string, string>)
  }

  async findOne<E extends FirmRow>(entity: EntityTarget<E>, where: FindOptionsWhere<E>): Promise<E | null> {
    return (await this.look(entity, where, {}, 1))[0] ?? null
  }

  private async look<E extends FirmRow>(
    entity: EntityTarget<E>,
    where: FindOptionsWhere<E>,
    order: Record<string, string>,
    limit?: number,
  ): Promise<E[]> {
    const { connection } = this.manager
    const metadata = connection.getMetadata(entity)
    return asEntities(connection, metadata, await this.ask(findSql(metadata, this.own(where), order, limit)))
  }

  async insert<E extends FirmRow>(entity: EntityTarget<E>, rows: Partial<Omit<E, 'firmId'>> | Partial<Omit<E, 'firmId'>>[]): Promise<void> {
    const list = Array.isArray(rows) ? rows : [rows]
    if (list.length === 0) return
    await this.manager.insert(entity, list.map((row) => ({ ...row, firmId: this.firmId })) as QueryDeepPartialEntity<E>[])
  }

  /** Inserts thousands of rows, a statement for each thousand: the mapper's own insert spends a millisecond a row. */
  async insertMany(entity: EntityTarget<FirmRow>, rows: readonly object[]): Promise<void> {
    for (let at = 0; at < rows.length; at += ROWS_A_STATEMENT) {
      const { sql, json } = insertionOf(this.manager.connection, this.firmId, entity, rows.slice(at, at + ROWS_A_STATEMENT), 1)
      await this.manager.query(sql, [json])
    }
  }

  /** Inserts rows of several tables in one statement, none of which may refer to another of them. */
  async insertTogether(tables: readonly (readonly [entity: EntityTarget<FirmRow>, rows: readonly object[]])[]): Promise<void> {
    const some = tables
      .filter(([, rows]) => rows.length > 0)
      .map(([entity, rows], index) => insertionOf(this.manager.connection, this.firmId, entity, rows, index + 1))
    if (some.length === 0) return
    const parts = some.map(({ sql }, index) => `t${index} as (${sql})`)
    await this.manager.query(
      `with ${parts.join(', ')} select`,
      some.map(({ json }) => json),
    )
  }

  /** How many rows were changed. */
  async update<E extends FirmRow>(entity: EntityTarget<E>, where: FindOptionsWhere<E>, patch: Partial<E>): Promise<number> {
    const done = await this.manager.update(entity, this.own(where), patch as QueryDeepPartialEntity<E>)
    return done.affected ?? 0
  }

  /** Plain SQL in which `$1` is the firm. What is asked in one go (`Promise.all`) goes to the database in one message. */
  query<R>(sql: string, params: readonly unknown[] = []): Promise<R[]> {
    return this.ask({ sql, params: [this.firmId, ...params] })
  }

  private ask<R>(question: Question): Promise<R[]> {
    return new Promise((done, failed) => {
      this.asked.push({ question, done: done as (answer: unknown) => void, failed })
      if (this.asked.length === 1) queueMicrotask(() => void this.send(this.asked.splice(0)))
    })
  }

  /** One by itself goes with its parameters beside it; several go as one message, which has none, so that they are written into it. */
  private async send(asked: readonly Asked[]): Promise<void> {
    try {
      const texts = asked.length > 1 ? asked.map(({ question }) => written(question)) : [null]
      if (texts.every((text) => text !== null)) {
        const connection: { query: (text: string) => Promise<PgAnswer[]> } = await this.manager.queryRunner?.connect()
        const answers = await connection.query(texts.join(';\n'))
        for (const [index, { done }] of asked.entries()) done(answerOf(answers[index]))
      } else {
        for (const { question, done } of asked) done(await this.manager.query(question.sql, [...question.params]))
      }
    } catch (error) {
      for (const { failed } of asked) failed(error)
    }
  }
}

interface Question {
  sql: string
  params: readonly unknown[]
}
interface Asked {
  question: Question
  done: (answer: unknown) => void
  failed: (error: unknown) => void
}
interface PgAnswer {
  command: string
  rows: unknown[]
  rowCount: number | null
}

/** As the mapper hands it out. */
const answerOf = (answer: PgAnswer | undefined): unknown =>
  answer?.command === 'UPDATE' || answer?.command === 'DELETE' ? [answer.rows, answer.rowCount] : answer?.rows

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/i
/** What the tables' locks go by, for as long as a transaction runs: the firm, or the door through which it came before there is one. */
interface Sight {
  firmId?: string
  door?: 'sign-in' | 'device' | 'feed'
}

/** Requests that may wait for a connection, a few seconds' work; whoever comes then is told at once to come again. */
export const MOST_WAITING = 256
/** The mapper's own pool of connections; none before it is connected. */
export const poolOf = ({ driver }: DataSource): Pool | undefined => (driver as { master?: Pool }).master
function refuseBeyondBound(source: DataSource): void {
  if ((poolOf(source)?.waitingCount ?? 0) >= MOST_WAITING) throw new TooManyWaiting('too many wait for a connection')
}

/**
 * One transaction with its sight set by the statement that begins it: a round trip less in every request. Nothing below begins
 * transactions of its own.
 */
async function seeing<T>(source: DataSource, { firmId = '', door }: Sight, work: (manager: EntityManager) => Promise<T>): Promise<T> {
  if (firmId !== '' && !UUID.test(firmId)) throw new RangeError(`not the id of a firm: ${firmId}`)
  refuseBeyondBound(source)
  const runner = source.createQueryRunner()
  const connection: { end: () => Promise<void> } = await runner.connect()
  try {
    await runner.query(`begin; select set_config('app.firm_id', '${firmId}', true), set_config('app.door', '${door ?? ''}', true)`)
    const done = await work(runner.manager)
    await runner.query('commit')
    return done
  } catch (error) {
    // A connection that cannot be rolled back is not handed to anybody else.
    await runner.query('rollback').catch(() => connection.end().catch(() => undefined))
    throw error
  } finally {
    await runner.release()
  }
}

export type InFirm = <T>(firmId: string, work: (scope: FirmScope) => Promise<T>) => Promise<T>

/** Runs `work` in one transaction that sees and writes only this firm. */
export const firmScopes =
  (source: DataSource): InFirm =>
  (firmId, work) =>
    seeing(source, { firmId }, (manager) => work(new FirmScope(manager, firmId)))

interface Statement {
  /** `$1` is the firm, what follows are the parameters. */
  sql: string
  params: readonly string[]
}
type InsertionAt = (entity: EntityTarget<FirmRow>, rows: readonly object[], place: number) => Insertion
export type AskFirm = <R>(firmId: string, statement: (insertion: InsertionAt) => Statement) => Promise<R[]>

/**
 * One statement in one round trip, for what comes with every tick of every phone: the statements of one message are one transaction
 * (PostgreSQL, "Multiple Statements in a Simple Query"), which sees only this firm. Such a message has no parameters, so that they are
 * written into it as literals.
 */
export const askFirmOf =
  (source: DataSource): AskFirm =>
  async <R>(firmId: string, statement: (insertion: InsertionAt) => Statement): Promise<R[]> => {
    if (!UUID.test(firmId)) throw new RangeError(`not the id of a firm: ${firmId}`)
    refuseBeyondBound(source)
    const { sql, params } = statement((entity, rows, place) => insertionOf(source, firmId, entity, rows, place))
    const text = written({ sql, params: [firmId, ...params] })
    if (text === null) throw new RangeError('a parameter cannot be written into a statement')
    const runner = source.createQueryRunner()
    try {
      const connection: { query: (text: string) => Promise<{ rows: R[] }[]> } = await runner.connect()
      const answers = await connection.query(
        `select set_config('app.firm_id', '${firmId}', true), set_config('app.door', '', true); ${text}`,
      )
      return answers.at(-1)?.rows ?? []
    } finally {
      await runner.release()
    }
  }

export type InAuthScope = <T>(work: (manager: EntityManager) => Promise<T>) => Promise<T>

/**
 * The one named exception: sign-in, where a token or an e-mail is turned into a firm.
 * Opens the sign-in tables and nothing else.
 */
export const authScope =
  (source: DataSource): InAuthScope =>
  (work) =>
    seeing(source, { door: 'sign-in' }, work)

export interface Revision {
  records: string
  ticks: string
}

export interface SignedIn {
  sessionId: string
  firmId: string
  personId: string
  name: string
  role: Role
  skills: string[]
  lastSeen: Date
  secondMissing: boolean
  /** Of the firm's records and of its ticks, as they stood when the request began. */
  revision: Revision
}
export type InSessionScope = (token: string, now: Date) => Promise<SignedIn | null>

export interface DeviceBehindKey {
  firmId: string
  id: string
  systemId: string
}
export type InDeviceScope = (keyHash: string) => Promise<DeviceBehindKey | null>

/** The named exception of devices: from the hash of a key to its device and firm. Opens the devices' own table and nothing else. */
export const deviceScope =
  (source: DataSource): InDeviceScope =>
  (keyHash) =>
    seeing(source, { door: 'device' }, async (manager) => {
      const rows: { firm_id: string; id: string; system_id: string }[] = await manager.query(
        'select firm_id, id, system_id from device where key_hash = $1 and active',
        [keyHash],
      )
      const [found] = rows
      return found ? { firmId: found.firm_id, id: found.id, systemId: found.system_id } : null
    })

export type InFeedScope = (tokenHash: string) => Promise<{ firmId: string; personId: string } | null>

/** The named exception of calendar feeds: from the hash of a secret address to a person who may still sign in. Opens the feeds' own table only. */
export const feedScope =
  (source: DataSource): InFeedScope =>
  async (tokenHash) => {
    const found = await seeing(source, { door: 'feed' }, async (manager) => {
      const rows: { firm_id: string; id: string }[] = await manager.query('select firm_id, id from feed where token_hash = $1', [tokenHash])
      return rows[0] ?? null
    })
    if (!found) return null
    const active = await firmScopes(source)(found.firm_id, (scope) =>
      scope.query('select 1 from person where firm_id = $1 and id = $2 and active', [found.id]),
    )
    return active.length > 0 ? { firmId: found.firm_id, personId: found.id } : null
  }
