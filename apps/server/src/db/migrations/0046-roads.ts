import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** A firm's own routing server, the minutes by road that it gave, and crossings by season and tide. */
export class Roads0046 implements MigrationInterface {
  name = 'Roads00469900000000046'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`create table road_server (
      firm_id uuid primary key references firm, address text not null, version int not null, next_at timestamptz not null,
      asked_at timestamptz, answered_at timestamptz, failures int not null default 0, problem jsonb, places int not null default 0,
      known int not null default 0, off_road int not null default 0)`)
    // A row has the seconds to and from every place with a smaller number, two bytes each: a new place is a new row.
    await run.query(`create table road_row (
      firm_id uuid not null references firm, no int not null, place text not null, out_s bytea not null, back_s bytea not null,
      off_road boolean not null, made_at timestamptz not null, primary key (firm_id, no), unique (firm_id, place))`)
    for (const table of ['road_server', 'road_row']) {
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert, update, delete on ${table} to ${APP_ROLE}`)
      await run.query(
        `create trigger raise_revision after insert or update or delete on ${table} for each statement execute function raise_revision('records')`,
      )
    }
    // The named exception of the queue: which firms' routing servers are to be asked by now, and nothing else of them.
    await run.query('create policy to_ask on road_server for select to current_user using (true)')
    await run.query(`create function firms_to_ask_roads(at timestamptz) returns setof uuid language sql stable security definer set search_path = public as
      $$ select firm_id from road_server where next_at <= at order by next_at limit 200 $$`)
    await run.query('revoke all on function firms_to_ask_roads(timestamptz) from public')
    await run.query(`grant execute on function firms_to_ask_roads(timestamptz) to ${APP_ROLE}`)
    await run.query(`alter table crossing add column seasons jsonb not null default '[]', add column tides jsonb`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table crossing drop column seasons, drop column tides')
    await run.query('drop function firms_to_ask_roads(timestamptz)')
    await run.query('drop table road_row')
    await run.query('drop table road_server')
  }
}
