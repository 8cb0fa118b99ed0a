import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A plan that the server made is offered until somebody applies or discards it. */
export class PlansOffered0035 implements MigrationInterface {
  name = 'PlansOffered00359900000000035'

  async up(run: QueryRunner): Promise<void> {
    await run.query('alter table round_run add column settled_at timestamptz')
    await run.query('update round_run set settled_at = changed_at')
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table round_run drop column settled_at')
  }
}
