import type { MigrationInterface, QueryRunner } from 'typeorm'

/**
 * As in 0030, with its settings as plain assignments: `perform` runs each as a query of its own, and this comes with every request.
 * The signature stands, so that servers of before and after work on it.
 */
const whoAsks = (set: (name: string, value: string) => string): string => `
create or replace function who_asks(asked text, asked_at timestamptz)
  returns table (session_id uuid, firm_id uuid, person_id uuid, name text, role text, skills text[], last_seen timestamptz, second_missing boolean)
  language plpgsql set search_path = public as $$
declare
  found_session record;
  was_set text;
begin
  ${set('app.firm_id', `''`)}
  ${set('app.door', `'sign-in'`)}
  select s.id, s.firm_id, s.user_id, s.updated_at into found_session from auth_session s where s.token = asked and s.expires_at > asked_at;
  ${set('app.door', `''`)}
  if found_session.id is null then return; end if;
  ${set('app.firm_id', 'found_session.firm_id::text')}
  return query select found_session.id, p.firm_id, p.id, p.name, p.role, p.skills, found_session.updated_at,
      f.second_factor = 'owners' and p.role = 'owner'
        and not exists (select 1 from auth_user u where u.firm_id = p.firm_id and u.id = p.id and u.two_factor_enabled)
        and not exists (select 1 from auth_passkey k where k.firm_id = p.firm_id and k.user_id = p.id)
    from person p join firm f on f.firm_id = p.firm_id and f.disabled_at is null
    where p.firm_id = found_session.firm_id and p.id = found_session.user_id and p.active;
  ${set('app.firm_id', `''`)}
end $$;`

export class WhoAsks0044 implements MigrationInterface {
  name = 'WhoAsks00449900000000044'

  async up(run: QueryRunner): Promise<void> {
    await run.query(whoAsks((name, value) => `was_set := set_config('${name}', ${value}, true);`))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(whoAsks((name, value) => `perform set_config('${name}', ${value}, true);`))
  }
}
