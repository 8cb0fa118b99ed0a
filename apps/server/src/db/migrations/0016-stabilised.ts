import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Chlorine with cyanuric acid in it, which no water that is drunk may have. */
export class Stabilised0016 implements MigrationInterface {
  name = 'Stabilised00169800000000016'

  async up(run: QueryRunner): Promise<void> {
    await run.query('alter table chlorine_product add column stabilised boolean not null default false')
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table chlorine_product drop column stabilised')
  }
}
