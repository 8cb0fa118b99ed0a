import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What answers are never kept of, or what is written before there is a firm: sign-ins, logs of who looked, and files of the whole. */
const NOT_COUNTED = ['auth_user', 'auth_account', 'auth_session', 'auth_two_factor', 'auth_passkey', 'customer_look', 'audit']

/**
 * The revision of a firm's records: a number that each transaction raises by one as it commits, if it wrote anything of the firm. Whoever
 * reads the number first and the records afterwards may give out the same again for as long as the number stands.
 *
 * Writers never wait for each other here: each transaction takes a row that no other holds (an advisory lock on firm and slot) and the
 * revision is the sum over the firm's rows. Beyond the slots a transaction gets a row of its own. What is written with no firm set,
 * by hand or by a migration, counts for every firm.
 */
export class Revisions0043 implements MigrationInterface {
  name = 'Revisions00439900000000043'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`
create table firm_revision (firm_id uuid not null, slot bigint not null, raised bigint not null, primary key (firm_id, slot)) with (fillfactor = 50);
create function raise_revision() returns trigger language plpgsql security definer set search_path = public as $$
declare
  own_firm text := coalesce(nullif(current_setting('app.firm_id', true), ''), '00000000-0000-0000-0000-000000000000');
  own_slot bigint := 0;
begin
  if current_setting('app.revision_raised', true) = own_firm then return null; end if;
  while not pg_try_advisory_xact_lock(hashtext(own_firm), own_slot::int) loop
    own_slot := own_slot + 1;
    if own_slot = 32 then
      own_slot := 32 + pg_current_xact_id()::text::bigint;
      exit;
    end if;
  end loop;
  insert into firm_revision as r values (own_firm::uuid, own_slot, 1) on conflict (firm_id, slot) do update set raised = r.raised + 1;
  perform set_config('app.revision_raised', own_firm, true);
  return null;
end $$;
create function revision_of(asked uuid) returns bigint language sql stable security definer set search_path = public as $$
  select coalesce(sum(raised), 0)::bigint from firm_revision where firm_id in (asked, '00000000-0000-0000-0000-000000000000')
$$;`)
    await run.query(`do $$
declare of_firm text;
begin
  for of_firm in
    select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'firm_id' and not a.attisdropped
    where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
      and c.relname not in (${['firm_revision', 'search_entry', ...NOT_COUNTED].map((name) => `'${name}'`).join(', ')})
  loop
    execute format('create trigger raise_revision after insert or update or delete on %I for each statement execute function raise_revision()', of_firm);
  end loop;
end $$`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function raise_revision() cascade')
    await run.query('drop function revision_of(uuid)')
    await run.query('drop table firm_revision')
  }
}
