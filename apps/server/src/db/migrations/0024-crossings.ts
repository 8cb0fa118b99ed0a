import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

const CROSSING = `
create table crossing (
  firm_id uuid not null references firm, id uuid not null, kind text not null check (kind in ('ferry', 'causeway', 'bridge')),
  name text not null, from_end jsonb not null, to_end jsonb not null, minutes int not null check (minutes > 0), board_min int not null check (board_min >= 0), departures int[] not null, returns int[] not null, open jsonb not null,
  version int not null, primary key (firm_id, id), check (from_end->>'area' <> to_end->>'area'));
`

/** A firm's own ferries, causeways and bridges. */
export class Crossings0024 implements MigrationInterface {
  name = 'Crossings00249900000000024'

  async up(run: QueryRunner): Promise<void> {
    await run.query(CROSSING)
    await run.query(lock('crossing', OWN_FIRM))
    await run.query(`grant select, insert, update, delete on crossing to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table crossing')
  }
}
