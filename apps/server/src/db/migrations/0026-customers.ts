import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { REFUSE_CHANGE_0023, REFUSED } from './0023-demo-away'

/** Facts change only where a customer is erased, by the function below, and go only with the demo as a whole. */
const REFUSE_CHANGE = `
create or replace function refuse_change() returns trigger language plpgsql as $$
begin
  if tg_op = 'DELETE' and current_setting('app.throws_away', true) = old.firm_id::text then return old; end if;
  if tg_op = 'UPDATE' and current_setting('app.erases', true) = old.firm_id::text then return new; end if;
  ${REFUSED}
end $$;`
/** What was typed freely about a site, by table: names and telephones stand anywhere in it. */
const FREE_TEXT: Record<string, string> = {
  fact_visit_finished: `note = ''`,
  fact_fault_noted: `text = ''`,
  fact_fault_settled: `note = ''`,
  fact_site_mended: `value = ''`,
  fact_work_changed: `why = case when why is null then null else '' end`,
  fact_step_done: `note = null`,
  fact_hold_lifted: `proof = 'erased'`,
  fact_hold_told: `whom = 'erased'`,
  fact_job_day_ended: `note = ''`,
}

/**
 * Of one site everything that says who lives there goes, and the work stays: what was fitted, read and found belongs to the firm's own
 * record and to its forecasts. The site leaves every screen; lists that were brought in lose the lines that name it. The caller takes
 * it off the round.
 */
const ERASE = `
create function erase_site(site_id uuid, at timestamptz) returns void language plpgsql security definer set search_path = public as $$
declare firm uuid := nullif(current_setting('app.firm_id', true), '')::uuid; was site; new_name text; word text;
begin
  select * into was from site s where s.firm_id = firm and s.id = erase_site.site_id for update;
  if not found then raise exception 'no such site'; end if;
  new_name := 'Erased customer ' || upper(right(was.id::text, 6));
  perform set_config('app.erases', firm::text, true);
${Object.entries(FREE_TEXT)
  .map(([table, set]) => `  update ${table} f set ${set} where f.firm_id = firm and f.site_id = was.id;`)
  .join('\n')}
  delete from photo_bytes b using photo p where b.firm_id = firm and p.firm_id = firm and p.site_id = was.id and b.photo_id = p.id;
  delete from photo p where p.firm_id = firm and p.site_id = was.id;
  for word in select said from unnest(array[was.name, was.contact, was.phone, was.email, was.street]) said
    union select c->>part from jsonb_array_elements(was.contacts) c, unnest(array['name', 'phone', 'email']) part
  loop
    continue when length(trim(word)) < 3;
    update intake i set source = (select coalesce(string_agg(line, E'\\n'), '') from regexp_split_to_table(i.source, E'\\n') line where position(word in line) = 0)
      where i.firm_id = firm and position(word in i.source) > 0;
    update intake i set kept = array_remove(i.kept, word) where i.firm_id = firm and word = any(i.kept);
  end loop;
  update round_set r set set = replace(r.set::text, to_json(was.name)::text, to_json(new_name)::text)::json
    where r.firm_id = firm and position(to_json(was.name)::text in r.set::text) > 0;
  update round_publication r set plan = replace(r.plan::text, to_json(was.name)::text, to_json(new_name)::text)::jsonb,
    changes = replace(r.changes::text, to_json(was.name)::text, to_json(new_name)::text)::jsonb
    where r.firm_id = firm and position(to_json(was.name)::text in r.plan::text || r.changes::text) > 0;
  update site s set name = new_name, contact = '', phone = '', email = '', access = '', contacts = '[]', street = '', postcode = '', lat = null, lon = null,
    gone_at = coalesce(s.gone_at, erase_site.at), gone_why = 'erased', version = s.version + 1 where s.firm_id = firm and s.id = was.id;
  perform set_config('app.erases', '', true);
end $$;`

/** A site can be left, and a customer erased. */
export class Customers0026 implements MigrationInterface {
  name = 'Customers00269900000000026'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table site add column gone_why text check (gone_why in ('left', 'merged', 'erased'))`)
    await run.query(REFUSE_CHANGE)
    await run.query(ERASE)
    await run.query('revoke all on function erase_site(uuid, timestamptz) from public')
    await run.query(`grant execute on function erase_site(uuid, timestamptz) to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function erase_site(uuid, timestamptz)')
    await run.query(REFUSE_CHANGE_0023)
    await run.query('alter table site drop column gone_why')
  }
}
