import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

const AT_THE_DOOR = `current_setting('app.door', true) = 'sign-in'`

/** What the sign-in library's plugins keep: secrets of authenticator apps, recovery codes, passkeys, and challenges that are under way. */
const TABLES = `
alter table firm add column second_factor text not null default 'free' check (second_factor in ('free', 'owners'));
alter table auth_user add column two_factor_enabled boolean not null default false;
create table auth_two_factor (
  firm_id uuid not null, id uuid not null unique, user_id uuid not null unique, secret text not null, backup_codes text not null,
  verified boolean not null default false, failed_verification_count int not null default 0, locked_until timestamptz,
  primary key (firm_id, id), foreign key (firm_id, user_id) references auth_user on delete cascade);
create table auth_passkey (
  firm_id uuid not null, id uuid not null unique, user_id uuid not null, name text, credential_id text not null unique, public_key text not null,
  counter double precision not null, device_type text not null, backed_up boolean not null, transports text, aaguid text,
  created_at timestamptz, primary key (firm_id, id), foreign key (firm_id, user_id) references auth_user on delete cascade);
create index on auth_passkey (firm_id, user_id);
create table auth_verification (
  id uuid primary key, identifier text not null, value text not null, expires_at timestamptz not null,
  created_at timestamptz not null, updated_at timestamptz not null);
create index on auth_verification (identifier);
create index on auth_verification (expires_at);
`
/** The library names a user and knows no firm: the user's own it is. */
const FIRM_OF_USER = `
create function firm_of_user() returns trigger language plpgsql set search_path = public as $$
begin
  new.firm_id := (select u.firm_id from auth_user u where u.id = new.user_id);
  return new;
end $$;
create trigger firm before insert on auth_two_factor for each row execute function firm_of_user();
create trigger firm before insert on auth_passkey for each row execute function firm_of_user();
`

/** As in 0020, and whether an owner still owes the firm a second factor. */
const whoAsks = (column: string, missing: string): string => `
drop function who_asks(text, timestamptz);
create function who_asks(asked text, asked_at timestamptz)
  returns table (session_id uuid, firm_id uuid, person_id uuid, name text, role text, skills text[], last_seen timestamptz${column})
  language plpgsql set search_path = public as $$
declare found_session record;
begin
  perform set_config('app.firm_id', '', true), set_config('app.door', 'sign-in', true);
  select s.id, s.firm_id, s.user_id, s.updated_at into found_session from auth_session s where s.token = asked and s.expires_at > asked_at;
  perform set_config('app.door', '', true);
  if found_session.id is null then return; end if;
  perform set_config('app.firm_id', found_session.firm_id::text, true);
  return query select found_session.id, p.firm_id, p.id, p.name, p.role, p.skills, found_session.updated_at${missing}
    from person p join firm f on f.firm_id = p.firm_id and f.disabled_at is null
    where p.firm_id = found_session.firm_id and p.id = found_session.user_id and p.active;
  perform set_config('app.firm_id', '', true);
end $$;`
const MISSING = `,
      f.second_factor = 'owners' and p.role = 'owner'
        and not exists (select 1 from auth_user u where u.firm_id = p.firm_id and u.id = p.id and u.two_factor_enabled)
        and not exists (select 1 from auth_passkey k where k.firm_id = p.firm_id and k.user_id = p.id)`

/** A second factor and passkeys, by the sign-in library's own plugins. */
export class SecondFactor0030 implements MigrationInterface {
  name = 'SecondFactor00309900000000030'

  async up(run: QueryRunner): Promise<void> {
    await run.query(TABLES)
    await run.query(FIRM_OF_USER)
    for (const table of ['auth_two_factor', 'auth_passkey']) await run.query(lock(table, `${OWN_FIRM} or ${AT_THE_DOOR}`))
    await run.query(lock('auth_verification', AT_THE_DOOR))
    await run.query(`grant select, insert, update, delete on auth_two_factor, auth_passkey, auth_verification to ${APP_ROLE}`)
    await run.query(whoAsks(', second_missing boolean', MISSING))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(whoAsks('', ''))
    await run.query('drop table auth_verification, auth_passkey, auth_two_factor')
    await run.query('drop function firm_of_user()')
    await run.query('alter table auth_user drop column two_factor_enabled')
    await run.query('alter table firm drop column second_factor')
  }
}
