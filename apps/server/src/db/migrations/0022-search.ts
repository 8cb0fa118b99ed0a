import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { OWN_FIRM } from './parts'

/**
 * One line for each thing that can be found. Row-level security would keep the planner from the index of trigrams, so nobody reads this
 * table but `search_firm`, which asks the session for its firm; the server's role may neither read nor write it.
 */
const ENTRIES = `
create extension if not exists pg_trgm;
create extension if not exists unaccent;
create table search_entry (
  firm_id uuid not null references firm, kind text not null check (kind in ('site', 'system', 'part', 'visit', 'fault')), ref uuid not null,
  site_id uuid not null, title text not null, words text not null, at timestamptz, primary key (firm_id, kind, ref));
create index search_entry_words on search_entry using gin (words gin_trgm_ops);
alter table search_entry enable row level security;
create policy own_firm on search_entry using (${OWN_FIRM}) with check (${OWN_FIRM});
create function plain_words(text) returns text language sql stable parallel safe set search_path = public as $$
  select lower(unaccent($1)) $$;
`

/** Writes what is found by: the newest says it, and what was taken back is found no more. */
const PUT = `
create function put_search(firm uuid, what text, thing uuid, site uuid, name text, said text, since timestamptz) returns void
  language sql security definer set search_path = public as $$
  insert into search_entry (firm_id, kind, ref, site_id, title, words, at) values (firm, what, thing, site, name, plain_words(said), since)
  on conflict (firm_id, kind, ref) do update set site_id = excluded.site_id, title = excluded.title, words = excluded.words, at = excluded.at
$$;
create function site_words(s site) returns text language sql stable set search_path = public as $$
  select concat_ws(' ', s.name, s.village, s.island, s.street, s.postcode, s.country, s.contact, s.phone, regexp_replace(s.phone, '[^0-9]', '', 'g'), s.email, s.access) $$;
create function search_site() returns trigger language plpgsql security definer set search_path = public as $$
begin
  if new.gone_at is not null then
    delete from search_entry where firm_id = new.firm_id and site_id = new.id;
  else
    perform put_search(new.firm_id, 'site', new.id, new.id, new.name, site_words(new), null);
  end if;
  return null;
end $$;
create function search_system() returns trigger language plpgsql security definer set search_path = public as $$
begin
  if new.gone_at is not null then
    delete from search_entry where firm_id = new.firm_id and kind = 'system' and ref = new.id;
  else
    perform put_search(new.firm_id, 'system', new.id, new.site_id, new.name, new.name, null);
  end if;
  return null;
end $$;
create function search_fact() returns trigger language plpgsql security definer set search_path = public as $$
declare what text := tg_argv[0]; thing uuid; name text; said text;
begin
  if what = 'part' then thing := new.id; name := new.part_number; said := concat_ws(' ', new.part_number, new.mark_text);
  elsif what = 'visit' then thing := new.visit_id; name := new.note; said := new.note;
  else thing := new.fault_id; name := new.text; said := new.text;
  end if;
  if new.supersedes is not null then
    delete from search_entry where firm_id = new.firm_id and kind = what and ref in (new.supersedes, thing);
  end if;
  if not new.voided and coalesce(said, '') <> '' then
    perform put_search(new.firm_id, what, thing, new.site_id, left(name, 200), left(said, 1000), new.at);
  end if;
  return null;
end $$;
create trigger search after insert or update on site for each row execute function search_site();
create trigger search after insert or update on system for each row execute function search_system();
create trigger search after insert on fact_part_fitted for each row execute function search_fact('part');
create trigger search after insert on fact_visit_finished for each row execute function search_fact('visit');
create trigger search after insert on fact_fault_noted for each row execute function search_fact('fault');
`

/** By part of a word and with slips, the best first; of the session's firm and no other. */
const SEARCH = `
create function search_firm(asked text, most int)
  returns table (kind text, ref uuid, site_id uuid, site_name text, title text, at timestamptz)
  language plpgsql stable security definer set search_path = public set pg_trgm.word_similarity_threshold = 0.5 as $$
declare
  mine uuid := nullif(current_setting('app.firm_id', true), '')::uuid;
  wanted text := plain_words(asked);
  pattern text := '%' || replace(replace(replace(wanted, '\\', '\\\\'), '%', '\\%'), '_', '\\_') || '%';
begin
  if mine is null or length(wanted) < 2 then return; end if;
  return query
    -- Of thousands that hold the letters some are ranked; slips are looked for only where few do.
    with whole as (
      select e.kind, e.ref, e.site_id, e.title, e.at, e.words from search_entry e where e.firm_id = mine and e.words like pattern limit 1000),
    near as (
      select e.kind, e.ref, e.site_id, e.title, e.at, e.words from search_entry e
      where (select count(*) from whole) < most and e.firm_id = mine and wanted <% e.words and e.words not like pattern limit 1000),
    hit as (
      select w.*, true as said, word_similarity(wanted, w.words) as near from whole w
      union all select n.*, false, word_similarity(wanted, n.words) from near n),
    best as (
      select h.* from hit h order by h.said desc, (h.kind = 'site') desc, h.near desc, h.at desc nulls last, h.ref limit least(most, 100))
    select b.kind, b.ref, b.site_id, s.title, b.title, b.at from best b
    join search_entry s on s.firm_id = mine and s.kind = 'site' and s.ref = b.site_id
    order by b.said desc, (b.kind = 'site') desc, b.near desc, b.at desc nulls last, b.ref;
end $$;
`
/** What is there already, firm by firm: their tables are locked for the owner too. */
const FILL = `
do $$
declare one uuid;
begin
  perform set_config('app.door', 'sign-in', true);
  for one in select distinct firm_id from auth_user loop
    perform set_config('app.firm_id', one::text, true);
    perform put_search(firm_id, 'site', id, id, name, site_words(s), null) from site s where firm_id = one and gone_at is null;
    perform put_search(firm_id, 'system', id, site_id, name, name, null) from system where firm_id = one and gone_at is null;
    perform put_search(firm_id, 'part', id, site_id, part_number, concat_ws(' ', part_number, mark_text), at) from fact_part_fitted f
      where firm_id = one and not voided and not exists
        (select 1 from fact_part_fitted g where g.firm_id = one and g.supersedes = f.id);
    perform put_search(firm_id, 'visit', visit_id, site_id, left(note, 200), left(note, 1000), at) from fact_visit_finished f
      where firm_id = one and not voided and note <> '' and not exists
        (select 1 from fact_visit_finished g where g.firm_id = one and g.supersedes = f.id);
    perform put_search(firm_id, 'fault', fault_id, site_id, left(text, 200), left(text, 1000), at) from fact_fault_noted f
      where firm_id = one and not voided and text <> '' and not exists
        (select 1 from fact_fault_noted g where g.firm_id = one and g.supersedes = f.id);
  end loop;
  perform set_config('app.door', '', true), set_config('app.firm_id', '', true);
end $$;
`

/** Search from anywhere: sites, systems, parts and their marks, past work and what was noted. */
export class Search0022 implements MigrationInterface {
  name = 'Search00229900000000022'

  async up(run: QueryRunner): Promise<void> {
    await run.query(ENTRIES)
    await run.query(PUT)
    await run.query(SEARCH)
    await run.query(FILL)
    await run.query(`revoke all on search_entry from public, ${APP_ROLE}`)
    await run.query('revoke all on function put_search(uuid, text, uuid, uuid, text, text, timestamptz) from public')
  }

  async down(run: QueryRunner): Promise<void> {
    for (const table of ['site', 'system', 'fact_part_fitted', 'fact_visit_finished', 'fact_fault_noted'])
      await run.query(`drop trigger search on ${table}`)
    await run.query('drop function search_firm(text, int), search_fact(), search_system(), search_site()')
    await run.query('drop function put_search(uuid, text, uuid, uuid, text, text, timestamptz), site_words(site), plain_words(text)')
    await run.query('drop table search_entry')
    await run.query('drop extension unaccent, pg_trgm')
  }
}
