import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'

/** The demo's firm; its id follows from its name and never changes. */
const DEMO_FIRM = 'd79e8da0-660c-5816-ac3c-9d439be1d924'

/** Shared with the migration that changes the function again. */
export const REFUSED = `raise exception 'facts are append-only: correct one by a fact that supersedes it' using errcode = 'restrict_violation';`

/** Facts go only with the demo as a whole, by the function below; the server's role may delete none by itself. */
export const REFUSE_CHANGE_0023 = `
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' and current_setting('app.throws_away', true) = old.firm_id::text then return old; end if;
  ${REFUSED}
end $$;`
const REFUSE_ALWAYS = `
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
  ${REFUSED}
end $$;`

/** Table by table, again and again, until none refers to another any more: the demo's firm, and no other. */
const THROW_AWAY = `
create function throw_demo_away() returns void language plpgsql security definer set search_path = public as $$
declare demo constant uuid := '${DEMO_FIRM}'; one text; left_over boolean;
begin
  perform set_config('app.firm_id', demo::text, true), set_config('app.door', '', true), set_config('app.throws_away', demo::text, true);
  for pass in 1..30 loop
    left_over := false;
    for one in
      select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'firm_id' and not a.attisdropped
      where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition order by 1
    loop
      begin
        execute format('delete from %I where firm_id = $1', one) using demo;
      exception when foreign_key_violation then
        left_over := true;
      end;
    end loop;
    exit when not left_over;
  end loop;
  if left_over then raise exception 'the demo could not be thrown away: something still refers to it'; end if;
  perform set_config('app.throws_away', '', true), set_config('app.firm_id', '', true);
end $$;`

/** A demo that was looked at goes as it came. */
export class DemoAway0023 implements MigrationInterface {
  name = 'DemoAway00239900000000023'

  async up(run: QueryRunner): Promise<void> {
    // Which firm wanted to look at it: that one alone throws it away.
    await run.query('alter table firm add column begun_by uuid')
    await run.query(REFUSE_CHANGE_0023)
    await run.query(THROW_AWAY)
    await run.query('revoke all on function throw_demo_away() from public')
    await run.query(`grant execute on function throw_demo_away() to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function throw_demo_away()')
    await run.query('alter table firm drop column begun_by')
    await run.query(REFUSE_ALWAYS)
  }
}
