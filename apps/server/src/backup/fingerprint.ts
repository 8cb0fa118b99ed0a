import { Client } from 'pg'

/** What one table holds of each firm: how many rows and a sum of their hashes, by the firm's id; `''` for rows of no firm. */
export type TablePrint = Record<string, string>
/** A database: its tables' prints by name, and how the firms in it are called. */
export interface DatabasePrint {
  tables: Record<string, TablePrint>
  firms: Record<string, string>
}
/** A whole database server, by the names of its databases. */
export type ServerPrint = Record<string, DatabasePrint>

const quoted = (name: string): string => `"${name.replaceAll('"', '""')}"`

export async function connected<T>(url: string, work: (client: Client) => Promise<T>): Promise<T> {
  const client = new Client({ connectionString: url })
  await client.connect()
  try {
    return await work(client)
  } finally {
    await client.end()
  }
}

/** The same server, another database of it. */
export const inDatabase = (url: string, name: string): string => {
  const parsed = new URL(url)
  parsed.pathname = `/${encodeURIComponent(name)}`
  return parsed.toString()
}

/** The databases of a server that hold something of the program's. */
export async function databasesOf(client: Client): Promise<string[]> {
  const { rows } = await client.query<{ datname: string }>(
    `select datname from pg_database where datallowconn and not datistemplate and datname <> 'postgres' order by 1`,
  )
  return rows.map(({ datname }) => datname)
}

/**
 * Every row of a database as the client's transaction sees it, summed up by table and firm. The order of rows does not matter,
 * any change of a value does. Only a role that row-level security does not bind sees all: it throws for any other.
 */
export async function printOf(client: Client): Promise<DatabasePrint> {
  await client.query(`set row_security = off; set timezone = 'UTC'; set datestyle = 'ISO'; set extra_float_digits = 1`)
  const { rows: tables } = await client.query<{ schema: string; name: string; ofFirm: boolean }>(`
    select n.nspname as schema, c.relname as name,
      exists (select 1 from pg_attribute a where a.attrelid = c.oid and not a.attisdropped and a.attname = 'firm_id') as "ofFirm"
    from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where c.relkind in ('r', 'p') and not c.relispartition and n.nspname !~ '^pg_' and n.nspname <> 'information_schema'
    order by 1, 2`)
  const print: DatabasePrint = { tables: {}, firms: {} }
  for (const { schema, name, ofFirm } of tables) {
    const { rows } = await client.query<{ firm: string; print: string }>(`
      select ${ofFirm ? `coalesce(t.firm_id::text, '')` : `''`} as firm,
        count(*) || ' rows ' || to_hex(mod(sum(hashtextextended(t::text, 0)::numeric) + 2::numeric ^ 95, 2::numeric ^ 63)::bigint) as print
      from ${quoted(schema)}.${quoted(name)} t group by 1`)
    print.tables[`${schema}.${name}`] = Object.fromEntries(rows.map((row) => [row.firm, row.print]))
    if (schema === 'public' && name === 'firm') {
      const named = await client.query<{ id: string; name: string }>('select firm_id::text as id, name from firm')
      print.firms = Object.fromEntries(named.rows.map((row) => [row.id, row.name]))
    }
  }
  return print
}

/** Every database of a server. */
export async function serverPrint(url: string): Promise<ServerPrint> {
  const print: ServerPrint = {}
  for (const name of await connected(url, databasesOf)) print[name] = await connected(inDatabase(url, name), printOf)
  return print
}

/** Where two prints differ, in words: one line for each firm and table; none where they are the same. */
export function differences(there: ServerPrint, back: ServerPrint): string[] {
  const found: string[] = []
  for (const [name, kept] of Object.entries(there)) {
    const other = back[name]
    if (!other) {
      found.push(`${name}: the whole database is missing`)
      continue
    }
    for (const table of new Set([...Object.keys(kept.tables), ...Object.keys(other.tables)])) {
      const [here, again] = [kept.tables[table] ?? {}, other.tables[table] ?? {}]
      for (const firm of new Set([...Object.keys(here), ...Object.keys(again)])) {
        if (here[firm] === again[firm]) continue
        const whose = firm === '' ? 'no firm’s' : (kept.firms[firm] ?? other.firms[firm] ?? firm)
        found.push(`${name}, ${whose}, ${table}: ${here[firm] ?? 'no rows'} in the server, ${again[firm] ?? 'no rows'} in the backup`)
      }
    }
  }
  return found
}
