import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** What went from one site to another, by whom: one system, or (without one) everything, since the two sites are the same place. */
const MOVES = `
create table site_move (
  firm_id uuid not null references firm, id uuid not null, system_id uuid, from_site uuid not null, to_site uuid not null,
  whole_past boolean not null, at timestamptz not null, person_id uuid not null,
  primary key (firm_id, id), foreign key (firm_id, system_id) references system, foreign key (firm_id, from_site) references site,
  foreign key (firm_id, to_site) references site, foreign key (firm_id, person_id) references person);
create index on site_move (firm_id, system_id, from_site);
${lock('site_move', OWN_FIRM)}grant select, insert on site_move to ${APP_ROLE};
alter table site add column merged_into uuid;
`

/** Files everything of one site under another: what it says stays as it is, facts too; only where it stands changes. */
const MERGE = `
create function merge_sites(from_id uuid, into_id uuid, at timestamptz) returns void language plpgsql security definer set search_path = public as $$
declare firm uuid := nullif(current_setting('app.firm_id', true), '')::uuid; named text;
begin
  perform 1 from site s where s.firm_id = firm and s.id in (from_id, into_id) and s.gone_at is null for update;
  if from_id = into_id or (select count(*) from site s where s.firm_id = firm and s.id in (from_id, into_id) and s.gone_at is null) <> 2 then
    raise exception 'no such sites';
  end if;
  perform set_config('app.erases', firm::text, true);
  for named in
    select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'site_id' and not a.attisdropped
    where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition
  loop
    if named = 'search_entry' then
      update search_entry e set site_id = into_id where e.firm_id = firm and e.site_id = from_id and e.kind <> 'site';
    else
      execute format('update %I t set site_id = $1 where t.firm_id = $2 and t.site_id = $3', named) using into_id, firm, from_id;
    end if;
  end loop;
  perform set_config('app.erases', '', true);
  insert into site_hours select (h).* from (select jsonb_populate_record(h, jsonb_build_object('id', into_id)) as h from site_hours h where h.firm_id = firm and h.id = from_id) x
    on conflict do nothing;
  update site s set merged_into = into_id where s.firm_id = firm and s.merged_into = from_id;
  update site s set gone_at = merge_sites.at, gone_why = 'merged', merged_into = into_id, version = s.version + 1 where s.firm_id = firm and s.id = from_id;
end $$;`

/** Files the visits of one system under another site, with all that was written down at them. */
const REFILE = `
create function refile_system(system_id uuid, from_id uuid, into_id uuid) returns void language plpgsql security definer set search_path = public as $$
declare firm uuid := nullif(current_setting('app.firm_id', true), '')::uuid; named text; visits uuid[];
begin
  perform 1 from system y where y.firm_id = firm and y.id = refile_system.system_id and y.site_id = into_id;
  if not found then raise exception 'no such system'; end if;
  select coalesce(array_agg(distinct b.visit_id), '{}') into visits from fact_visit_begun b
    where b.firm_id = firm and b.system_id = refile_system.system_id and b.site_id = from_id;
  perform set_config('app.erases', firm::text, true);
  for named in
    select c.relname from pg_class c join pg_attribute a on a.attrelid = c.oid and a.attname = 'site_id' and not a.attisdropped
    where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition and (c.relname like 'fact\\_%' or c.relname = 'photo')
  loop
    execute format('update %I t set site_id = $1 where t.firm_id = $2 and t.site_id = $3 and t.visit_id = any($4)', named) using into_id, firm, from_id, visits;
  end loop;
  update fact_tds_reading t set site_id = into_id where t.firm_id = firm and t.site_id = from_id and t.system_id = refile_system.system_id;
  update fact_stage_reading t set site_id = into_id where t.firm_id = firm and t.site_id = from_id and t.system_id = refile_system.system_id;
  update fact_fault_noted t set site_id = into_id where t.firm_id = firm and t.site_id = from_id and t.system_id = refile_system.system_id;
  update fact_fault_settled t set site_id = into_id where t.firm_id = firm and t.site_id = from_id
    and exists (select 1 from fact_fault_noted n where n.firm_id = firm and n.fault_id = t.fault_id and n.site_id = into_id);
  update search_entry e set site_id = into_id where e.firm_id = firm and e.site_id = from_id and (
    (e.kind = 'visit' and e.ref = any(visits))
    or (e.kind = 'part' and exists (select 1 from fact_part_fitted f where f.firm_id = firm and f.id = e.ref and f.site_id = into_id))
    or (e.kind = 'fault' and exists (select 1 from fact_fault_noted n where n.firm_id = firm and n.fault_id = e.ref and n.site_id = into_id)));
  perform set_config('app.erases', '', true);
end $$;`

/** Whoever left is found no more; what was done there is found again when they come back. */
const SEARCH_SITE = (goes: string): string => `
create or replace function search_site() returns trigger language plpgsql security definer set search_path = public as $$
begin
  if new.gone_at is not null then
    delete from search_entry where firm_id = new.firm_id and site_id = new.id${goes};
  else
    perform put_search(new.firm_id, 'site', new.id, new.id, new.name, site_words(new), null);
  end if;
  return null;
end $$;`
const UNLESS_ERASED = ` and (new.gone_why = 'erased' or kind = 'site')`

/** Two sites can be merged, and a system moved from one to another. */
export class Moving0029 implements MigrationInterface {
  name = 'Moving00299900000000029'

  async up(run: QueryRunner): Promise<void> {
    await run.query(MOVES)
    await run.query(MERGE)
    await run.query(REFILE)
    await run.query(SEARCH_SITE(UNLESS_ERASED))
    for (const said of ['merge_sites(uuid, uuid, timestamptz)', 'refile_system(uuid, uuid, uuid)']) {
      await run.query(`revoke all on function ${said} from public`)
      await run.query(`grant execute on function ${said} to ${APP_ROLE}`)
    }
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(SEARCH_SITE(''))
    await run.query('drop function refile_system(uuid, uuid, uuid)')
    await run.query('drop function merge_sites(uuid, uuid, timestamptz)')
    await run.query('alter table site drop column merged_into')
    await run.query('drop table site_move')
  }
}
