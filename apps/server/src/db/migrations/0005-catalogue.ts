import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** A firm's own figures for a medium (a row only where it differs from ours), parts that stand in for one another, units of its screens. */
const CATALOGUE = `
create table medium_profile (
  firm_id uuid not null references firm, media text not null, life_months double precision check (life_months > 0),
  rated_litres double precision check (rated_litres > 0), rated_hours double precision check (rated_hours > 0), limits jsonb not null,
  version int not null, primary key (firm_id, media));
create table part_equivalent (
  firm_id uuid not null, part_id uuid not null, other_id uuid not null, primary key (firm_id, part_id, other_id),
  foreign key (firm_id, part_id) references part, foreign key (firm_id, other_id) references part, check (part_id < other_id));
alter table firm add column units jsonb not null default '{"volume": "L", "pressure": "kPa", "temperature": "C"}';
`
const TABLES = ['medium_profile', 'part_equivalent']

export class Catalogue0005 implements MigrationInterface {
  name = 'Catalogue0005700000000005'

  async up(run: QueryRunner): Promise<void> {
    await run.query(CATALOGUE)
    for (const table of TABLES) {
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert, update, delete on ${table} to ${APP_ROLE}`)
    }
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(`drop table ${TABLES.join(', ')}`)
    await run.query('alter table firm drop column units')
  }
}
