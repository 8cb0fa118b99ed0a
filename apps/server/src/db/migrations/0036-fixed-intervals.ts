import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What a part served and how far past its end that was likely to be, beside what changing by the label alone would have meant. */
export class FixedIntervals0036 implements MigrationInterface {
  name = 'FixedIntervals00369900000000036'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table forecast_judged add column served_days int, add column past_days double precision,
      add column label_days double precision, add column label_past_days double precision`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(
      'alter table forecast_judged drop column served_days, drop column past_days, drop column label_days, drop column label_past_days',
    )
  }
}
