import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/**
 * Lists brought in. What a list made is known by it (its facts carry its id as their device), so that it can be taken back: facts are
 * voided by facts, sites and systems stay as rows that are \`gone\` since facts refer to them.
 */
const INTAKE = `
create table intake (
  firm_id uuid not null references firm, id uuid not null, name text not null, person_id uuid not null, at timestamptz not null,
  source text not null, columns text[] not null, date_order text not null, counts jsonb not null, undone_at timestamptz,
  kept text[] not null default '{}', primary key (firm_id, id), foreign key (firm_id, person_id) references person);
create index on intake (firm_id, at);
alter table site add column intake_id uuid;
alter table site add column gone_at timestamptz;
alter table system add column intake_id uuid;
alter table system add column gone_at timestamptz;
create index on site (firm_id, intake_id) where intake_id is not null;
create index on system (firm_id, intake_id) where intake_id is not null;
`

export class Intake0004 implements MigrationInterface {
  name = 'Intake0004700000000004'

  async up(run: QueryRunner): Promise<void> {
    await run.query(INTAKE)
    await run.query(lock('intake', OWN_FIRM))
    await run.query(`grant select, insert, update on intake to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table intake')
    for (const table of ['site', 'system'])
      for (const column of ['intake_id', 'gone_at']) await run.query(`alter table ${table} drop column ${column}`)
  }
}
