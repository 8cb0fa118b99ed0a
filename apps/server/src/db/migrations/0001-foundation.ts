import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

const AT_THE_DOOR = `current_setting('app.door', true) = 'sign-in'`

/** Master data: read and edited by the server's role, by version. */
const MASTER = `
create table firm (
  firm_id uuid primary key, name text not null, time_zone text not null, currency text not null,
  gallon text not null check (gallon in ('us', 'imperial')), schools jsonb not null, version int not null);
create table person (
  firm_id uuid not null references firm, id uuid not null, name text not null, email text not null, role text not null
  check (role in ('owner', 'planner', 'technician', 'viewer')), skills text[] not null, van text, active boolean not null,
  version int not null, primary key (firm_id, id), unique (firm_id, email));
create table site (
  firm_id uuid not null references firm, id uuid not null, name text not null, village text not null, island text not null,
  access text not null, contact text not null, phone text not null, people int not null check (people > 0), source text not null,
  chlorine_mg_l double precision check (chlorine_mg_l >= 0), version int not null, primary key (firm_id, id));
create table system (
  firm_id uuid not null, id uuid not null, site_id uuid not null, name text not null, train_version int not null,
  primary key (firm_id, id), foreign key (firm_id, site_id) references site);
create index on system (firm_id, site_id);
create table train_version (
  firm_id uuid not null, system_id uuid not null, version int not null, train jsonb not null,
  primary key (firm_id, system_id, version), foreign key (firm_id, system_id) references system);
create table part (
  firm_id uuid not null references firm, id uuid not null, part_number text not null, maker text not null, name text not null,
  media text not null, housing text not null, rated_days double precision, rated_litres double precision,
  rated_milliequivalents double precision, rated_hours double precision, price_minor int not null check (price_minor >= 0),
  version int not null, primary key (firm_id, id), unique (firm_id, part_number));
create table stage (
  firm_id uuid not null, id uuid not null, system_id uuid not null, next_part_id uuid, primary key (firm_id, id),
  foreign key (firm_id, system_id) references system, foreign key (firm_id, next_part_id) references part);
create index on stage (firm_id, system_id);
create table stop (
  firm_id uuid not null, id uuid not null, site_id uuid not null, system_id uuid not null, technician_id uuid not null,
  day text not null check (day ~ '^\\d{4}-\\d{2}-\\d{2}$'), order_no int not null, leave_min int not null, arrive_min int not null,
  work_min int not null, travel_min int not null, ferry_at text, promised boolean not null, version int not null,
  primary key (firm_id, id), foreign key (firm_id, site_id) references site, foreign key (firm_id, system_id) references system,
  foreign key (firm_id, technician_id) references person);
create index on stop (firm_id, technician_id, day);
create table stop_task (
  firm_id uuid not null, stop_id uuid not null, stage_id uuid not null, action text not null,
  primary key (firm_id, stop_id, stage_id), foreign key (firm_id, stop_id) references stop, foreign key (firm_id, stage_id) references stage);
`
const MASTER_TABLES = ['firm', 'person', 'site', 'system', 'train_version', 'part', 'stage', 'stop', 'stop_task']

/** Sign-in stands before the firm is known: these tables open to the door as well as to their own firm. */
const AUTH = `
create table auth_user (
  firm_id uuid not null references firm, id uuid not null unique, name text not null, email text not null unique,
  email_verified boolean not null, image text, created_at timestamptz not null, updated_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, id) references person);
create table auth_account (
  firm_id uuid not null, id uuid not null unique, user_id uuid not null, account_id text not null, provider_id text not null,
  password text, access_token text, refresh_token text, id_token text, access_token_expires_at timestamptz,
  refresh_token_expires_at timestamptz, scope text, created_at timestamptz not null, updated_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, user_id) references auth_user);
create table auth_session (
  firm_id uuid not null, id uuid not null unique, user_id uuid not null, token text not null unique, expires_at timestamptz not null,
  ip_address text, user_agent text, created_at timestamptz not null, updated_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, user_id) references auth_user);
create index on auth_account (firm_id, user_id);
create index on auth_session (firm_id, user_id);
create table sign_in_failure (
  who text primary key, failures int not null, last_at timestamptz not null, locked_until timestamptz not null);
`
const AUTH_TABLES = ['auth_user', 'auth_account', 'auth_session']

const FACT_COLUMNS: Record<string, string> = {
  fact_visit_begun: 'stop_id uuid, system_id uuid not null, train_version int not null, engine_version int not null, tasks jsonb not null',
  fact_tds_reading: `system_id uuid not null, phase text not null, water text not null, display double precision not null,
    multiplier int not null, quantity text not null, scale double precision not null, compensated boolean not null,
    temperature_c double precision, settled boolean not null, kept_despite_doubt boolean not null, tds_mg_l double precision not null`,
  fact_step_done: 'step_key text not null, answer text',
  fact_timer_started: 'step_key text not null, seconds int not null',
  fact_part_removed: 'stage_id uuid not null, found text not null, dirt_past boolean',
  fact_part_fitted: `stage_id uuid not null, part_id uuid, part_number text not null, position int not null, mark_text text not null,
    rated_days double precision, rated_litres double precision, rated_milliequivalents double precision, rated_hours double precision`,
  fact_hold_begun: 'hold_kind text not null, until timestamptz, text text not null',
  fact_visit_finished: 'outcome text not null, monitor_reset boolean, customer_told boolean not null, note text not null',
}
const FACT_TABLES = Object.keys(FACT_COLUMNS)

const RECEIPTS = `
create table fact_receipt (
  firm_id uuid not null references firm, id uuid not null, kind text not null, device_id uuid not null, person_id uuid not null,
  visit_id uuid not null, arrived_at timestamptz not null, body_hash text not null, flags text[] not null, primary key (firm_id, id));
create index on fact_receipt (firm_id, visit_id);
create trigger append_only before update or delete on fact_receipt for each row execute function refuse_change();
`

const REFUSE_CHANGE = `
create function refuse_change() returns trigger language plpgsql as $$
begin
  raise exception 'facts are append-only: correct one by a fact that supersedes it' using errcode = 'restrict_violation';
end $$;`

export class Foundation0001 implements MigrationInterface {
  name = 'Foundation0001700000000001'

  async up(run: QueryRunner): Promise<void> {
    await run.query(MASTER)
    await run.query(AUTH)
    await run.query(REFUSE_CHANGE)
    for (const [name, columns] of Object.entries(FACT_COLUMNS)) await run.query(factTable(name, columns))
    await run.query(RECEIPTS)
    await run.query(monthsFunction(FACT_TABLES))
    for (const table of [...MASTER_TABLES, ...FACT_TABLES, 'fact_receipt']) await run.query(lock(table, OWN_FIRM))
    for (const table of AUTH_TABLES) await run.query(lock(table, `${OWN_FIRM} or ${AT_THE_DOOR}`))
    await run.query(lock('sign_in_failure', AT_THE_DOOR))
    await run.query(`grant usage on schema public to ${APP_ROLE}`)
    await run.query(
      `grant select, insert, update, delete on ${[...MASTER_TABLES, ...AUTH_TABLES, 'sign_in_failure'].join(', ')} to ${APP_ROLE}`,
    )
    await run.query(`grant select, insert on ${[...FACT_TABLES, 'fact_receipt'].join(', ')} to ${APP_ROLE}`)
    await run.query(`revoke all on function ensure_fact_months(date, date) from public`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(`drop table ${[...FACT_TABLES, 'fact_receipt', 'sign_in_failure', ...AUTH_TABLES].join(', ')} cascade`)
    await run.query(`drop table ${[...MASTER_TABLES].reverse().join(', ')} cascade`)
    await run.query('drop function ensure_fact_months(date, date)')
    await run.query('drop function refuse_change()')
  }
}
