import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** By which rule a part is to be changed and how much is drawn, each at the levels where somebody said so. `about` is an id, or a medium. */
const CHOICES = `
create table due_rule (
  firm_id uuid not null references firm, level text not null check (level in ('firm', 'medium', 'site', 'system', 'stage')), about text not null,
  by text not null check (by in ('contract', 'label', 'evidence')), months int check (months between 1 and 240), anchor text,
  care text not null check (care in ('careful', 'as-label', 'sparing')), beyond_label boolean not null,
  primary key (firm_id, level, about), check (by <> 'contract' or months is not null));
create table stated_use (
  firm_id uuid not null references firm, level text not null check (level in ('site', 'system', 'stage')), about text not null,
  by text not null check (by in ('litres-a-day', 'drinks-a-day', 'covers-a-day', 'fills-a-week', 'cubic-metres-a-quarter')),
  amount double precision not null check (amount > 0), fill_l double precision check (fill_l > 0), primary key (firm_id, level, about));
alter table site add column kind text not null default 'home'
  check (kind in ('home', 'cafe', 'surgery', 'workshop', 'vehicle', 'cleaning-round'));
alter table medium_profile add column late_days_worth double precision check (late_days_worth > 0);
`
const TABLES = ['due_rule', 'stated_use']

/** Forecasts can be thrown away at will: they are made anew with their rule. */
const FORECAST = `
truncate stage_forecast;
alter table stage_forecast add column rule jsonb not null, add column due jsonb not null, add column spent_on date not null,
  add column turns_on date, add column advice text;
create index on stage_forecast (firm_id, spent_on);
create index on stage_forecast (firm_id, turns_on) where turns_on is not null;
create index on stage_forecast (firm_id, advice, due_on) where advice is not null;
`

/** The named exception of the queue, wider: firms with stages to forecast anew, or with a day to change that moves by itself by this day. */
const FIRMS_TO_REFRESH = `
create function firms_to_refresh(today date) returns setof uuid language sql stable security definer set search_path = public as $$
  select firm_id from stale_stage union select firm_id from stage_forecast where turns_on <= today
$$;`

/** All stages of all firms, which row-level security would keep from the owner otherwise. */
async function markAll(run: QueryRunner): Promise<void> {
  for (const table of ['stage', 'stale_stage']) await run.query(`alter table ${table} no force row level security`)
  await run.query(
    `insert into stale_stage (firm_id, stage_id, marked_at) select firm_id, id, timestamptz '2000-01-01' from stage on conflict do nothing`,
  )
  for (const table of ['stage', 'stale_stage']) await run.query(`alter table ${table} force row level security`)
}

export class DayToChange0013 implements MigrationInterface {
  name = 'DayToChange00139800000000013'

  async up(run: QueryRunner): Promise<void> {
    await run.query(CHOICES)
    for (const table of TABLES) {
      await run.query(lock(table, OWN_FIRM.replace(/= (.*)$/, '= (select $1)')))
      await run.query(`grant select, insert, update, delete on ${table} to ${APP_ROLE}`)
    }
    await run.query(FORECAST)
    await run.query('create policy waiting on stage_forecast for select to current_user using (true)')
    await run.query(FIRMS_TO_REFRESH)
    await run.query('revoke all on function firms_to_refresh(date) from public')
    await run.query(`grant execute on function firms_to_refresh(date) to ${APP_ROLE}`)
    await markAll(run)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function firms_to_refresh(date)')
    await run.query('drop policy waiting on stage_forecast')
    await run.query('truncate stage_forecast')
    await run.query(
      'alter table stage_forecast drop column rule, drop column due, drop column spent_on, drop column turns_on, drop column advice',
    )
    await run.query('alter table medium_profile drop column late_days_worth')
    await run.query('alter table site drop column kind')
    await run.query(`drop table ${TABLES.join(', ')}`)
    await markAll(run)
  }
}
