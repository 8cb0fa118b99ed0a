import type { MigrationInterface, QueryRunner } from 'typeorm'

/**
 * From a sign-in's token to the person behind it, in one statement: every request begins with it. It opens the sign-in tables for one
 * token and the firm for one person, within its own transaction, and nothing beyond.
 */
const WHO_ASKS = `
create function who_asks(asked text, asked_at timestamptz)
  returns table (session_id uuid, firm_id uuid, person_id uuid, name text, role text, skills text[], last_seen timestamptz)
  language plpgsql set search_path = public as $$
declare found_session record;
begin
  perform set_config('app.firm_id', '', true), set_config('app.door', 'sign-in', true);
  select s.id, s.firm_id, s.user_id, s.updated_at into found_session from auth_session s where s.token = asked and s.expires_at > asked_at;
  perform set_config('app.door', '', true);
  if found_session.id is null then return; end if;
  perform set_config('app.firm_id', found_session.firm_id::text, true);
  return query select found_session.id, p.firm_id, p.id, p.name, p.role, p.skills, found_session.updated_at
    from person p where p.firm_id = found_session.firm_id and p.id = found_session.user_id and p.active;
  perform set_config('app.firm_id', '', true);
end $$;`

export class Sessions0012 implements MigrationInterface {
  name = 'Sessions00129800000000012'

  async up(run: QueryRunner): Promise<void> {
    await run.query(WHO_ASKS)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop function who_asks(text, timestamptz)')
  }
}
