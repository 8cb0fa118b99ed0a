import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

/** Readings of stages, beside the TDS pair that was there already. */
const STAGE_READING = `system_id uuid not null, stage_id uuid, phase text not null, counter_l double precision,
  counter_started_over boolean not null, in_kpa double precision, out_kpa double precision, flow_l_min double precision,
  clean_flow_l_min double precision, chlorine_after_mg_l double precision, lamp_hours double precision, intensity_percent double precision,
  product_l_min double precision, water_c double precision`

/** Weeks in which a place is closed or fuller than usual. */
const OCCUPANCY = `
create table occupancy (
  firm_id uuid not null, id uuid not null, site_id uuid not null, from_day date not null, to_day date not null,
  share double precision not null check (share >= 0 and share <= 10), primary key (firm_id, id),
  foreign key (firm_id, site_id) references site, check (to_day > from_day));
create index on occupancy (firm_id, site_id);
`

/**
 * What is believed of each stage, thrown away and made anew at will. \`alive\` is the chance of being good on each of \`days\` after
 * fitting, without "alive today", so that nothing goes stale at midnight. \`stale_stage\` is what has to be made anew: facts mark it in
 * their own transaction, the job takes the marks off in the transaction that stores the result.
 */
const FORECAST = `
create table stage_forecast (
  firm_id uuid not null, stage_id uuid not null, system_id uuid not null, site_id uuid not null, media text not null,
  part_number text not null, part_search text not null generated always as (lower(part_number)) stored, fitted_on date not null, fitted_known boolean not null, days real[] not null, alive real[] not null,
  due_on date not null, window_from date not null, window_to date not null, p10 date not null, p50 date not null, p90 date not null,
  governing text not null, school text not null, computed_at timestamptz not null,
  primary key (firm_id, stage_id), foreign key (firm_id, stage_id) references stage, foreign key (firm_id, site_id) references site);
create index on stage_forecast (firm_id, due_on, stage_id);
create index on stage_forecast (firm_id, site_id, due_on, stage_id);
alter table site add column search text not null generated always as (lower(name || ' ' || village)) stored;
create index on site (firm_id, island, village, name);
create table stale_stage (
  firm_id uuid not null, stage_id uuid not null, marked_at timestamptz not null, primary key (firm_id, stage_id),
  foreign key (firm_id, stage_id) references stage);
`

/** A school of its own for a site or a stage; null follows the next wider one. */
const SCHOOLS = `
alter table site add column change_school text check (change_school in ('calendar', 'usage', 'condition', 'earliest'));
alter table stage add column change_school text check (change_school in ('calendar', 'usage', 'condition', 'earliest'));
alter table firm add column spread jsonb;
`

/** The named exception of the queue: which firms have stages to forecast anew, and nothing else of them. */
const FIRMS_WITH_STALE = `
create function firms_with_stale_stages() returns setof uuid language sql stable security definer set search_path = public as $$
  select distinct firm_id from stale_stage
$$;`

const FACTS = [
  'fact_visit_begun',
  'fact_tds_reading',
  'fact_stage_reading',
  'fact_step_done',
  'fact_timer_started',
  'fact_part_removed',
  'fact_part_fitted',
  'fact_hold_begun',
  'fact_visit_finished',
]

export class Wear0002 implements MigrationInterface {
  name = 'Wear0002700000000002'

  async up(run: QueryRunner): Promise<void> {
    await run.query(factTable('fact_stage_reading', STAGE_READING))
    await run.query('create index on fact_stage_reading (firm_id, system_id, at)')
    await run.query('create index on fact_tds_reading (firm_id, system_id, at)')
    await run.query('create index on fact_part_fitted (firm_id, stage_id, at)')
    await run.query('create index on fact_part_removed (firm_id, stage_id, at)')
    await run.query('alter table fact_part_fitted add column date_known boolean not null default true')
    await run.query(OCCUPANCY)
    await run.query(FORECAST)
    await run.query(SCHOOLS)
    await run.query(monthsFunction(FACTS))
    for (const table of ['fact_stage_reading', 'occupancy', 'stage_forecast', 'stale_stage']) await run.query(lock(table, OWN_FIRM))
    // The function runs as the owner, who is bound by row-level security too: this door lets it see which firms wait.
    await run.query(`create policy waiting on stale_stage for select to current_user using (true)`)
    await run.query(FIRMS_WITH_STALE)
    await run.query(`revoke all on function firms_with_stale_stages() from public`)
    await run.query(`grant execute on function firms_with_stale_stages() to ${APP_ROLE}`)
    await run.query(`grant select, insert on fact_stage_reading to ${APP_ROLE}`)
    await run.query(`grant select, insert, update, delete on occupancy, stage_forecast, stale_stage to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function firms_with_stale_stages()')
    await run.query('drop table fact_stage_reading, occupancy, stage_forecast, stale_stage cascade')
    await run.query('alter table fact_part_fitted drop column date_known')
    await run.query('drop index site_firm_id_island_village_name_idx')
    await run.query('alter table site drop column search')
    await run.query('alter table site drop column change_school')
    await run.query('alter table stage drop column change_school')
    await run.query('alter table firm drop column spread')
    await run.query(monthsFunction(FACTS.filter((name) => name !== 'fact_stage_reading')))
  }
}
