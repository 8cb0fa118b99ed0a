import type { DataSource } from 'typeorm'
import { APP_ROLE } from './roles'

export const ROLE_HELP = `Make two ordinary roles and give the server the second one, for example:
  create role evenround_owner login password '...' createrole;
  create database evenround owner evenround_owner;
and set DATABASE_URL to evenround_owner's address: the program then makes the role ${APP_ROLE} and works as it.`

/** Throws, with the remedy, when the role the server would work as could get round row-level security. */
export async function refusePowerfulRole(source: DataSource): Promise<void> {
  const [row] = await source.query<{ name: string; super: boolean; bypass: boolean; owns: boolean }[]>(`
    select current_user as name, rolsuper as super, rolbypassrls as bypass,
      exists (select 1 from pg_class where relname = 'firm' and relkind = 'r' and relowner = pg_roles.oid) as owns
    from pg_roles where rolname = current_user`)
  if (!row) throw new Error('the database does not say who is signed in')
  if (row.super || row.bypass) {
    throw new Error(
      `The database role ${row.name} is a superuser or passes by row-level security; the server refuses to work as it.\n${ROLE_HELP}`,
    )
  }
  if (row.owns) throw new Error(`The database role ${row.name} owns the tables; the server refuses to work as their owner.\n${ROLE_HELP}`)
}
