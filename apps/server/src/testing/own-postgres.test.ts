import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { Client } from 'pg'
import { startPostgres } from '../../../../bin/lib/postgres.mjs'

const asked = async (url: string, sql: string): Promise<unknown[]> => {
  const client = new Client({ connectionString: url })
  await client.connect()
  try {
    return (await client.query(sql)).rows
  } finally {
    await client.end()
  }
}

test('the database of bin/start: on loopback alone, with roles that may no more than they need, the same again after a restart', async () => {
  const dir = mkdtempSync(join(tmpdir(), 'even-round-own-'))
  const elsewhere = `${dir}-pg`
  const start = (port?: number) => startPostgres({ dir, elsewhere, durable: false, ...(port ? { port } : {}) })
  let own = await start()
  try {
    const { appUrl, ownerUrl } = own.createDatabase('even_round')
    expect(new URL(appUrl).hostname).toBe('127.0.0.1')
    expect(await asked(appUrl, 'show listen_addresses')).toEqual([{ listen_addresses: '127.0.0.1' }])
    const rights = `select current_user as who, rolsuper, rolcreatedb, rolcreaterole, rolbypassrls from pg_roles where rolname = current_user`
    const none = { rolsuper: false, rolcreatedb: false, rolcreaterole: false, rolbypassrls: false }
    expect(await asked(appUrl, rights)).toEqual([{ who: 'evenround_app', ...none }])
    expect(await asked(ownerUrl, rights)).toEqual([{ who: 'evenround_owner', ...none }])
    await expect(asked(appUrl.replace(/:[^:@/]+@/, ':wrong@'), 'select 1')).rejects.toThrow('password')
    await asked(ownerUrl, 'create table kept (n int); insert into kept values (7)')
    await expect(asked(appUrl, 'drop table kept')).rejects.toThrow('owner')

    const { port } = own
    await own.stop()
    own = await start(port)
    // Made once: asking again keeps what is there.
    own.createDatabase('even_round')
    expect(await asked(ownerUrl, 'select n from kept')).toEqual([{ n: 7 }])
    own.dropDatabase('even_round')
    await expect(asked(ownerUrl, 'select 1')).rejects.toThrow('does not exist')
  } finally {
    await own.stop()
    for (const one of [dir, elsewhere]) rmSync(one, { recursive: true, force: true })
  }
})
