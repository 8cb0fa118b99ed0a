import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A set of the round is written once and read whole: as text it costs the database nothing to hand out. */
export class SetsAsWritten0014 implements MigrationInterface {
  name = 'SetsAsWritten00149800000000014'

  async up(run: QueryRunner): Promise<void> {
    await run.query('alter table round_set alter column set type json using set::json')
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table round_set alter column set type jsonb using set::jsonb')
  }
}
