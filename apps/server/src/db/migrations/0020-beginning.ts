import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

const AT_THE_DOOR = `current_setting('app.door', true) = 'sign-in'`

/** Links that are good once; the hash of each, never the link itself. */
const LINKS = `
create table person_link (
  firm_id uuid not null references firm, id uuid not null, kind text not null check (kind in ('invitation', 'reset')),
  person_id uuid not null, token_hash text not null unique, made_by uuid, made_at timestamptz not null, expires_at timestamptz not null,
  used_at timestamptz, primary key (firm_id, id), foreign key (firm_id, person_id) references person);
create index on person_link (firm_id, person_id);
alter table firm add column disabled_at timestamptz;
`

/** As in 0012, and nobody of a firm that is switched off. */
const whoAsks = (enabled: string): string => `
create or replace function who_asks(asked text, asked_at timestamptz)
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
    from person p where p.firm_id = found_session.firm_id and p.id = found_session.user_id and p.active${enabled};
  perform set_config('app.firm_id', '', true);
end $$;`
const ENABLED = `
      and exists (select 1 from firm f where f.firm_id = p.firm_id and f.disabled_at is null)`

/** How a firm begins: links for invitations and forgotten passwords, and a firm that can be switched off. */
export class Beginning0020 implements MigrationInterface {
  name = 'Beginning00209900000000020'

  async up(run: QueryRunner): Promise<void> {
    await run.query(LINKS)
    await run.query(lock('person_link', `(${AT_THE_DOOR} or ${OWN_FIRM})`))
    await run.query(`grant select, insert, update on person_link to ${APP_ROLE}`)
    await run.query(whoAsks(ENABLED))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(whoAsks(''))
    await run.query('alter table firm drop column disabled_at')
    await run.query('drop table person_link')
  }
}
