import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Which languages' cautions somebody competent has read against the English, by language. */
export class CautionsSigned0039 implements MigrationInterface {
  name = 'CautionsSigned00399900000000039'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table firm add column cautions_signed jsonb not null default '{}'`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table firm drop column cautions_signed')
  }
}
