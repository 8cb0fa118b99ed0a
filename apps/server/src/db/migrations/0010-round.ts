import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** A calendar program knows a secret address and nothing else: this door opens the feeds' own table before the firm is known. */
const AT_THE_FEED_DOOR = `current_setting('app.door', true) = 'feed'`

const ROUND = `
create table place (
  firm_id uuid not null references firm, id text not null, name text not null, island text not null,
  lon double precision not null check (lon between -180 and 180), lat double precision not null check (lat between -90 and 90),
  primary key (firm_id, id));
create unique index on place (firm_id, island, name);
create table travel_matrix (
  firm_id uuid not null references firm, key text not null, made_at timestamptz not null, travel jsonb not null, primary key (firm_id, key));
create table work_time (
  firm_id uuid not null, id uuid not null, version int not null, base text, weekdays int[] not null, from_min int not null, to_min int not null,
  overtime_min int not null check (overtime_min >= 0), van_kg double precision check (van_kg > 0),
  primary key (firm_id, id), foreign key (firm_id, id) references person, foreign key (firm_id, base) references place, check (from_min < to_min));
create table day_off (
  firm_id uuid not null references firm, id uuid not null, person_id uuid, from_day date not null, to_day date not null, why text not null,
  source text not null check (source in ('typed', 'calendar', 'sick')),
  primary key (firm_id, id), foreign key (firm_id, person_id) references person, check (from_day <= to_day));
create table site_hours (
  firm_id uuid not null, id uuid not null, version int not null, open jsonb not null, closed_weekdays int[] not null, access_min int,
  primary key (firm_id, id), foreign key (firm_id, id) references site);
create table round_mark (
  firm_id uuid not null references firm, id uuid not null, visit_id uuid not null,
  kind text not null check (kind in ('pin', 'forbid', 'promise', 'not-before')), day date not null, from_min int, to_min int, why text not null,
  made_by uuid not null, made_at timestamptz not null, primary key (firm_id, id), check (from_min is null or from_min < to_min));
create table round_extra (
  firm_id uuid not null, id uuid not null, site_id uuid not null, system_id uuid not null, work_min int not null, from_day date not null,
  to_day date not null, why text not null, tasks jsonb not null, made_by uuid not null, made_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, site_id) references site, foreign key (firm_id, system_id) references system);
create table round_set (
  firm_id uuid not null references firm, id uuid not null, made_at timestamptz not null, set jsonb not null, primary key (firm_id, id));
create table round_draft (
  firm_id uuid not null references firm, version int not null, set_id uuid not null, plan jsonb not null, changed_by uuid not null,
  changed_at timestamptz not null, primary key (firm_id), foreign key (firm_id, set_id) references round_set);
create table round_publication (
  firm_id uuid not null references firm, number int not null, set_id uuid not null, plan jsonb not null, changes jsonb not null, published_by uuid not null,
  published_at timestamptz not null, primary key (firm_id, number), foreign key (firm_id, set_id) references round_set);
create trigger append_only before update or delete on round_publication for each row execute function refuse_change();
create table round_run (
  firm_id uuid not null references firm, id uuid not null, set_id uuid not null, state text not null, share double precision not null,
  cost double precision, message text not null, parts jsonb not null, plan jsonb, cancelled boolean not null, asked_by uuid not null,
  made_at timestamptz not null, changed_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, set_id) references round_set);
create table feed (
  firm_id uuid not null, id uuid not null, token_hash text not null unique, made_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, id) references person);
create table van_tick (
  firm_id uuid not null, person_id uuid not null, day date not null, item text not null, state text not null check (state in ('loaded', 'short')),
  ticked_at timestamptz not null,   primary key (firm_id, person_id, day, item), foreign key (firm_id, person_id) references person);
alter table stop add column home_min int, add column publication int, add column visit_key uuid, add column promise_from int,
  add column promise_to int;
create index stop_visit_key on stop (firm_id, visit_key) where visit_key is not null;
alter table firm add column round_terms jsonb not null
  default '{"hourMinor": 4800, "accessMin": 8, "setupMin": 14, "unevenness": 1, "change": 30}';
`
/** The named exception of the queue: which runs nobody finished, and nothing else of their firms. */
const OPEN_RUNS = `
create function open_round_runs() returns table (firm_id uuid, id uuid) language sql stable security definer set search_path = public as $$
  select r.firm_id, r.id from round_run r where r.state in ('waiting', 'running') and not r.cancelled
$$;`
const TABLES = [
  'place',
  'travel_matrix',
  'work_time',
  'day_off',
  'site_hours',
  'round_mark',
  'round_extra',
  'round_set',
  'round_draft',
  'round_run',
  'van_tick',
]

/** The round: places and roads, who works when, what people decided, the plan in the making and the plans that were published. */
export class Round0010 implements MigrationInterface {
  // The last thirteen digits are the order: after those of 0009.
  name = 'Round00109800000000010'

  async up(run: QueryRunner): Promise<void> {
    await run.query(ROUND)
    for (const table of TABLES) {
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert, update, delete on ${table} to ${APP_ROLE}`)
    }
    await run.query(lock('round_publication', OWN_FIRM))
    await run.query(`grant select, insert on round_publication to ${APP_ROLE}`)
    await run.query(lock('feed', `${OWN_FIRM} or ${AT_THE_FEED_DOOR}`))
    await run.query(`grant select, insert, update, delete on feed to ${APP_ROLE}`)
    await run.query(`create policy open_runs on round_run for select to current_user using (true)`)
    await run.query(OPEN_RUNS)
    await run.query('revoke all on function open_round_runs() from public')
    await run.query(`grant execute on function open_round_runs() to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function open_round_runs()')
    await run.query('drop index stop_visit_key')
    await run.query(
      'alter table stop drop column home_min, drop column publication, drop column visit_key, drop column promise_from, drop column promise_to',
    )
    await run.query('alter table firm drop column round_terms')
    await run.query('drop table feed, round_publication, round_draft, round_run')
    await run.query(
      `drop table ${TABLES.filter((table) => table !== 'round_draft' && table !== 'round_run')
        .reverse()
        .join(', ')}`,
    )
  }
}
