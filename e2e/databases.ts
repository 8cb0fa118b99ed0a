import pg from 'pg'

interface Urls {
  adminUrl: string
  ownerUrl: string
  appUrl: string
}

/** The PostgreSQL that bin/test started. */
export function urls(): Urls {
  const text = process.env.EVEN_ROUND_TEST_DATABASE
  if (!text) throw new Error('No test database: run these tests by bin/test e2e')
  return JSON.parse(text) as Urls
}

/** The same server, another database of it. */
export const named = (url: string, name: string): string => {
  const parsed = new URL(url)
  parsed.pathname = `/${name}`
  return parsed.toString()
}

/** One statement on a connection of its own; its rows. */
export async function query<R extends object>(url: string, sql: string, params: unknown[] = []): Promise<R[]> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  try {
    return (await client.query(sql, params)).rows as R[]
  } finally {
    await client.end()
  }
}

export const asAdmin = async (sql: string): Promise<void> => void (await query(urls().adminUrl, sql))
