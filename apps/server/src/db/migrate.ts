import type { DataSource } from 'typeorm'
import { ROLE_HELP } from './guard'
import { prepareQueue } from './queue'
import { APP_ROLE } from './roles'

/** Months after this one that get partitions of their own too; what is older than this month is in the default one already. */
const MONTHS_AHEAD = 4

/** Makes the server's role where it is missing; `mustTakeOn`: this very role signs in for the server and has to be able to take it on. */
async function ensureAppRole(owner: DataSource, mustTakeOn: boolean): Promise<void> {
  const [row] = await owner.query<{ there: boolean; member: boolean; super: boolean }[]>(
    `select exists (select 1 from pg_roles where rolname = $1) as there,
       coalesce((select pg_has_role(current_user, oid, 'member') from pg_roles where rolname = $1), false) as member,
       (select rolsuper from pg_roles where rolname = current_user) as super`,
    [APP_ROLE],
  )
  if (row?.super) throw new Error(`DATABASE_URL signs in as a superuser; the program refuses to work as one.\n${ROLE_HELP}`)
  try {
    if (!row?.there) await owner.query(`create role ${APP_ROLE} nologin`)
    if (!row?.member && (mustTakeOn || !row?.there)) await owner.query(`grant ${APP_ROLE} to current_user`)
  } catch (cause) {
    const said = cause instanceof Error ? cause.message : String(cause)
    throw new Error(
      `The role ${APP_ROLE} cannot be taken on by the role of DATABASE_URL (${said}). An administrator can grant it.\n${ROLE_HELP}`,
    )
  }
}

const monthsFrom = (now: Date, months: number): string =>
  new Date(Date.UTC(now.getUTCFullYear(), now.getUTCMonth() + months, 1)).toISOString().slice(0, 10)

/** Brings the schema up to date and the months ahead into place. Returns how many migrations ran. */
export async function migrate(owner: DataSource, now: Date, { mustTakeOn = false, monthsAhead = MONTHS_AHEAD } = {}): Promise<number> {
  await ensureAppRole(owner, mustTakeOn)
  const done = await owner.runMigrations({ transaction: 'each' })
  await prepareQueue(owner)
  await owner.query('select ensure_fact_months($1, $2)', [monthsFrom(now, 0), monthsFrom(now, monthsAhead)])
  return done.length
}
