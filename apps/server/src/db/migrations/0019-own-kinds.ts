import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

const OWN_KIND = `
create table own_kind (
  firm_id uuid not null references firm, media text not null check (media like 'own:_%'), causes jsonb not null,
  life_months double precision check (life_months > 0), rated_litres double precision check (rated_litres > 0),
  soak_hours double precision check (soak_hours > 0), flush jsonb, end_up text not null, cautions jsonb not null,
  version int not null, primary key (firm_id, media));
`

/** Kinds of part that a firm works with and that our media do not name. */
export class OwnKinds0019 implements MigrationInterface {
  name = 'OwnKinds00199900000000019'

  async up(run: QueryRunner): Promise<void> {
    await run.query(OWN_KIND)
    await run.query(lock('own_kind', OWN_FIRM))
    await run.query(`grant select, insert, update on own_kind to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table own_kind')
  }
}
