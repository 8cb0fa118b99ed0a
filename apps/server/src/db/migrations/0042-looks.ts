import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** Who opened which customer's page on which day: once for each of the three, and never changed: what is merged or moved later was opened under its own name. */
export class Looks0042 implements MigrationInterface {
  name = 'Looks00429900000000042'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`create table customer_look (
      firm_id uuid not null references firm, day text not null, person_id uuid not null, opened_id uuid not null, at timestamptz not null,
      primary key (firm_id, day, person_id, opened_id))`)
    await run.query('create trigger append_only before update or delete on customer_look for each row execute function refuse_change()')
    await run.query(lock('customer_look', OWN_FIRM))
    await run.query(`grant select, insert on customer_look to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table customer_look')
  }
}
