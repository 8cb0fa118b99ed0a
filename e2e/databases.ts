import pg from 'pg'

interface Urls {
  adminUrl: string
  ownerUrl: string
  appUrl: string
}

/** The PostgreSQL that bin/test started. */
export const urls = (): Urls => JSON.parse(process.env.EVEN_ROUND_TEST_DATABASE ?? '{}') as Urls

/** The same server, another database of it. */
export const named = (url: string, name: string): string => {
  const parsed = new URL(url)
  parsed.pathname = `/${name}`
  return parsed.toString()
}

export async function asAdmin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: urls().adminUrl })
  await client.connect()
  await client.query(sql)
  await client.end()
}
