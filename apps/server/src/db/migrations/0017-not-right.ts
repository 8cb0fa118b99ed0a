import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A visit that ends without the water being right names the stages it is about. */
export class NotRight0017 implements MigrationInterface {
  name = 'NotRight00179800000000017'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table fact_visit_finished add column not_right jsonb not null default '[]'`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table fact_visit_finished drop column not_right')
  }
}
