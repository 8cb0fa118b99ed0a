import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock } from './parts'

/** How often somebody asked for what is dear or guessable: hashes and counts, nothing of any firm; and which tries can be forgotten. */
export class Limits0040 implements MigrationInterface {
  name = 'Limits00409900000000040'

  async up(run: QueryRunner): Promise<void> {
    await run.query('create table rate_limit (key varchar(255) primary key, points integer not null default 0, expire bigint)')
    await run.query('create index on rate_limit (expire)')
    await run.query(lock('rate_limit', 'true'))
    await run.query(`grant select, insert, update, delete on rate_limit to ${APP_ROLE}`)
    await run.query('create index on sign_in_failure (last_at)')
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop index sign_in_failure_last_at_idx')
    await run.query('drop table rate_limit')
  }
}
