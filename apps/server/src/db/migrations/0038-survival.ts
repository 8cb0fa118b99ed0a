import type { MigrationInterface, QueryRunner } from 'typeorm'

/** The field's own word: a forecast keeps a survival curve, day by day. */
export class Survival0038 implements MigrationInterface {
  name = 'Survival00389900000000038'

  async up(run: QueryRunner): Promise<void> {
    await run.query('alter table stage_forecast rename column alive to survival')
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table stage_forecast rename column survival to alive')
  }
}
