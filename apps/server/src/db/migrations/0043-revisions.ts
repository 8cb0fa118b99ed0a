import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What answers are never kept of, or what is written before there is a firm: sign-ins, logs of who looked, and files of the whole. */
const NOT_COUNTED = ['auth_user', 'auth_account', 'auth_session', 'auth_two_factor', 'auth_passkey', 'customer_look', 'audit']

/**
 * Of facts a phone sends, those that stand where it knew them and were never sent before, at an open visit that is no disinfection; a
 * beginning also by the train and the stop it was begun with. What follows a beginning that does not stand so stands with it or not at all.
 * A function, so that its plan is made once for each connection and not with every tick; bound by row-level security as whoever calls it.
 * Each row is looked up by itself (a scalar subquery is never turned into a scan of a firm's whole past).
 */
const STANDING_FACTS = `
create function standing_facts(own_firm uuid, facts json) returns table (id uuid) language plpgsql stable set plan_cache_mode = force_generic_plan as $$
#variable_conflict use_column
begin
  return query
  with given as materialized (
    select * from json_to_recordset(facts) as g (id uuid, kind text, site uuid, visit uuid, stop uuid, system uuid, version int)),
  visits as materialized (
    select v.visit, coalesce((select true from disinfection d where d.firm_id = own_firm and d.id = v.visit),
      (select true from fact_visit_finished f where f.firm_id = own_firm and f.visit_id = v.visit limit 1), false) as shut
    from (select distinct visit from given) v),
  sites as materialized (
    select p.site, coalesce((select s.gone_at is null and s.merged_into is null from site s where s.firm_id = own_firm and s.id = p.site), false)
      and (select true from site_move m where m.firm_id = own_firm and m.from_site = p.site limit 1) is null as known
    from (select distinct site from given) p),
  judged as materialized (
    select g.id, g.kind, g.visit, s.known and not v.shut
      and (select true from fact_receipt r where r.firm_id = own_firm and r.id = g.id) is null
      and (g.system is null or (select y.site_id = g.site and y.train_version = g.version from system y where y.firm_id = own_firm and y.id = g.system))
      and (g.stop is null or (select true from stop t where t.firm_id = own_firm and t.id = g.stop)) as stands
    from given g join visits v using (visit) join sites s using (site))
  select j.id from judged j
  where j.stands is true and not exists (select 1 from judged b where b.kind = 'visit-begun' and b.visit = j.visit and b.stands is not true);
end $$;`

/** What a tick writes: most of what a firm writes all day, and read by few pages. */
const TICKS = ['fact_step_done', 'fact_block_done', 'fact_receipt']

/**
 * The revision of a firm's records: a number that each transaction raises by one as it commits, if it wrote anything of the firm, and a
 * second one of its ticks. Whoever reads the numbers first and the records afterwards may give out the same again for as long as they stand.
 *
 * Writers never wait for each other here: each transaction takes a row that no other holds (an advisory lock on firm and slot) and a
 * revision is the sum over the firm's rows: from slot 0 upwards for records, from -1 downwards for ticks. Beyond 32 slots a transaction gets
 * a row of its own. What is written with no firm set, by hand or by a migration, counts for every firm.
 */
export class Revisions0043 implements MigrationInterface {
  name = 'Revisions00439900000000043'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`
create table firm_revision (firm_id uuid not null, slot bigint not null, raised bigint not null, primary key (firm_id, slot)) with (fillfactor = 50);
create function raise_revision() returns trigger language plpgsql security definer set search_path = public as $$
declare
  own_firm text := coalesce(nullif(current_setting('app.firm_id', true), ''), '00000000-0000-0000-0000-000000000000');
  raised_in text := 'app.revision_raised_' || tg_argv[0];
  own_slot bigint := 0;
begin
  if current_setting(raised_in, true) = own_firm then return null; end if;
  while not pg_try_advisory_xact_lock(hashtext(own_firm || tg_argv[0]), own_slot::int) loop
    own_slot := own_slot + 1;
    if own_slot = 32 then
      own_slot := 32 + pg_current_xact_id()::text::bigint;
      exit;
    end if;
  end loop;
  if tg_argv[0] = 'ticks' then own_slot := -1 - own_slot; end if;
  insert into firm_revision as r values (own_firm::uuid, own_slot, 1) on conflict (firm_id, slot) do update set raised = r.raised + 1;
  perform set_config(raised_in, own_firm, true);
  return null;
end $$;
create function revision_of(asked uuid, out records bigint, out ticks bigint) language plpgsql stable security definer set search_path = public as $$
begin
  select coalesce(sum(raised) filter (where slot >= 0), 0), coalesce(sum(raised) filter (where slot < 0), 0) into records, ticks
    from firm_revision where firm_id in (asked, '00000000-0000-0000-0000-000000000000');
end $$;`)
    await run.query(STANDING_FACTS)
    await run.query(`do $$
declare of_firm text;
begin
  for of_firm in
    select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'firm_id' and not a.attisdropped
    where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
      and c.relname not in (${['firm_revision', 'search_entry', ...NOT_COUNTED].map((name) => `'${name}'`).join(', ')})
  loop
    execute format('create trigger raise_revision after insert or update or delete on %I for each statement execute function raise_revision(%L)', of_firm,
      case when of_firm in (${TICKS.map((name) => `'${name}'`).join(', ')}) then 'ticks' else 'records' end);
  end loop;
end $$`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function raise_revision() cascade')
    await run.query('drop function standing_facts(uuid, json)')
    await run.query('drop function revision_of(uuid)')
    await run.query('drop table firm_revision')
  }
}
