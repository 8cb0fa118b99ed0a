import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** A firm's whole file, in pieces, until it has been fetched or is a week old; and the record of who took or erased what. */
const TABLES = `
create table firm_file (
  firm_id uuid not null references firm, id uuid not null, state text not null check (state in ('asked', 'made', 'failed')),
  asked_by uuid not null, asked_at timestamptz not null, made_at timestamptz, bytes bigint, row_count int,
  primary key (firm_id, id), foreign key (firm_id, asked_by) references person);
create table firm_file_part (
  firm_id uuid not null, file_id uuid not null, no int not null, bytes bytea not null, primary key (firm_id, file_id, no),
  foreign key (firm_id, file_id) references firm_file on delete cascade);
create table audit (
  firm_id uuid not null references firm, id uuid not null, at timestamptz not null, person_id uuid, what text not null, about uuid,
  said text not null, primary key (firm_id, id));
create index on audit (firm_id, at desc);
create trigger append_only before update or delete on audit for each row execute function refuse_change();
`

export class TakingOut0025 implements MigrationInterface {
  name = 'TakingOut00259900000000025'

  async up(run: QueryRunner): Promise<void> {
    await run.query(TABLES)
    for (const table of ['firm_file', 'firm_file_part', 'audit']) await run.query(lock(table, OWN_FIRM))
    await run.query(`grant select, insert, update, delete on firm_file, firm_file_part to ${APP_ROLE}`)
    await run.query(`grant select, insert on audit to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table audit, firm_file_part, firm_file')
  }
}
