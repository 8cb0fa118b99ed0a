import { randomBytes } from 'node:crypto'
import { Client } from 'pg'
import { inDatabase } from '../backup/fingerprint'

interface TestServer {
  adminUrl: string
  ownerUrl: string
  appUrl: string
}

/** The PostgreSQL that `bin/test` started; tests never use a stand-in for it. */
function testServer(): TestServer {
  const text = process.env.EVEN_ROUND_TEST_DATABASE
  if (!text) throw new Error('No test database: run these tests by bin/test server')
  return JSON.parse(text) as TestServer
}

async function asAdmin<T>(work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: testServer().adminUrl })
  await client.connect()
  try {
    return await work(client)
  } finally {
    await client.end()
  }
}

export interface TestDatabase {
  appUrl: string
  ownerUrl: string
  adminUrl: string
  drop: () => Promise<void>
}

/** A database of its own for one test file, copied from a migrated one: `empty`, or with the `demo` in it; `bare` has no schema. */
export async function testDatabase(kind: 'empty' | 'demo' | 'bare'): Promise<TestDatabase> {
  const name = `t_${randomBytes(6).toString('hex')}`
  await asAdmin((client) =>
    client.query(
      kind === 'bare'
        ? `create database ${name} owner evenround_owner`
        : `create database ${name} owner evenround_owner template er_${kind} strategy file_copy`,
    ),
  )
  const { appUrl, ownerUrl, adminUrl } = testServer()
  return {
    appUrl: inDatabase(appUrl, name),
    ownerUrl: inDatabase(ownerUrl, name),
    adminUrl: inDatabase(adminUrl, name),
    drop: async () => {
      await asAdmin((client) => client.query(`drop database ${name} with (force)`))
    },
  }
}

/** Reads past every lock, to see what really stands in the tables. */
export async function peek<R extends object>(database: TestDatabase, sql: string, params: unknown[] = []): Promise<R[]> {
  const client = new Client({ connectionString: database.adminUrl })
  await client.connect()
  try {
    return (await client.query<R>(sql, params)).rows
  } finally {
    await client.end()
  }
}
