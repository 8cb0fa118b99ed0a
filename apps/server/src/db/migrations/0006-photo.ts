import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** What a photo shows stands in its row; its bytes stand apart, so that reading rows never drags pictures along. */
const PHOTO = `
create table photo (
  firm_id uuid not null, id uuid not null, site_id uuid not null, visit_id uuid not null, stage_id uuid not null, person_id uuid not null,
  taken_at timestamptz not null, arrived_at timestamptz not null, width int not null, height int not null, primary key (firm_id, id),
  foreign key (firm_id, site_id) references site, foreign key (firm_id, stage_id) references stage,
  foreign key (firm_id, person_id) references person);
create index on photo (firm_id, visit_id);
create index on photo (firm_id, stage_id);
create table photo_bytes (
  firm_id uuid not null, photo_id uuid not null, bytes bytea not null, primary key (firm_id, photo_id),
  foreign key (firm_id, photo_id) references photo);
alter table photo_bytes alter column bytes set storage external;
`
const TABLES = ['photo', 'photo_bytes']

export class Photo0006 implements MigrationInterface {
  name = 'Photo0006700000000006'

  async up(run: QueryRunner): Promise<void> {
    await run.query(PHOTO)
    for (const table of TABLES) {
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert, delete on ${table} to ${APP_ROLE}`)
    }
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(`drop table ${[...TABLES].reverse().join(', ')}`)
  }
}
