import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Whether a stop's way was estimated over land or is known from roads and timetables. */
export class WaysEstimated0034 implements MigrationInterface {
  name = 'WaysEstimated00349900000000034'

  async up(run: QueryRunner): Promise<void> {
    await run.query('alter table stop add column way_estimated boolean not null default false')
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table stop drop column way_estimated')
  }
}
