import PgBoss from 'pg-boss'
import type { DataSource } from 'typeorm'
import { APP_ROLE } from './roles'

/** The queue's own schema; its tables are made by the owner and worked by the server's role. */
export const QUEUE_SCHEMA = 'jobs'
export const FORECAST_QUEUE = 'forecast'
export const ROUND_QUEUE = 'round'
export const FILE_QUEUE = 'firm-file'
export const INTAKE_QUEUE = 'intake'
export const ROAD_QUEUE = 'roads'
/** A job that was not finished in this time is given to another process. */
export const LEASE_SECONDS = 60
/** A firm's whole file is written in one go, which takes as long as the firm is large. */
const FILE_LEASE_SECONDS = 4 * 3600
/** A list is written in one transaction. */
const INTAKE_LEASE_SECONDS = 1800

type Pool = { query: (text: string, values?: unknown[]) => Promise<{ rows: unknown[]; rowCount: number | null }> }

const isPool = (value: unknown): value is Pool =>
  typeof value === 'object' && value !== null && 'query' in value && typeof value.query === 'function'

/** The queue speaks through the pool the server has anyway. */
export function executor(source: DataSource): PgBoss.Db {
  const pool: unknown = Reflect.get(source.driver, 'master')
  if (!isPool(pool)) throw new Error('The driver of the database has no pool.')
  return {
    executeSql: async (text: string, values: unknown[]) => {
      const { rows, rowCount } = await pool.query(text, values)
      return { rows, rowCount: rowCount ?? 0 }
    },
  }
}

/** Brings the queue's tables up to date; asks for the owner of the schema. */
export async function prepareQueue(owner: DataSource): Promise<void> {
  const boss = new PgBoss({ db: executor(owner), schema: QUEUE_SCHEMA, supervise: false, schedule: false })
  await boss.start()
  // One waiting job a firm is enough: it does whatever was marked by the time it runs.
  await boss.createQueue(FORECAST_QUEUE, {
    name: FORECAST_QUEUE,
    policy: 'short',
    expireInSeconds: LEASE_SECONDS,
    retryLimit: 5,
    retryDelay: 2,
  })
  await boss.createQueue(ROUND_QUEUE, {
    name: ROUND_QUEUE,
    policy: 'standard',
    expireInSeconds: LEASE_SECONDS,
    retryLimit: 50,
    retryDelay: 1,
  })
  await boss.createQueue(FILE_QUEUE, {
    name: FILE_QUEUE,
    policy: 'standard',
    expireInSeconds: FILE_LEASE_SECONDS,
    retryLimit: 0,
  })
  await boss.createQueue(INTAKE_QUEUE, {
    name: INTAKE_QUEUE,
    policy: 'standard',
    expireInSeconds: INTAKE_LEASE_SECONDS,
    retryLimit: 2,
    retryDelay: 1,
  })
  // As with forecasts: one waiting job a firm asks whatever is to be asked by the time it runs.
  await boss.createQueue(ROAD_QUEUE, {
    name: ROAD_QUEUE,
    policy: 'short',
    expireInSeconds: LEASE_SECONDS,
    retryLimit: 2,
    retryDelay: 5,
  })
  await boss.stop({ graceful: false })
  await owner.query(`grant usage on schema ${QUEUE_SCHEMA} to ${APP_ROLE}`)
  await owner.query(`grant select, insert, update, delete on all tables in schema ${QUEUE_SCHEMA} to ${APP_ROLE}`)
  await owner.query(`grant execute on all functions in schema ${QUEUE_SCHEMA} to ${APP_ROLE}`)
}
