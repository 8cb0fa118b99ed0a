import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

const BEFORE = [
  'fact_visit_begun',
  'fact_tds_reading',
  'fact_stage_reading',
  'fact_step_done',
  'fact_timer_started',
  'fact_part_removed',
  'fact_part_fitted',
  'fact_hold_begun',
  'fact_visit_finished',
  'fact_step_surprise',
  'fact_hold_lifted',
  'fact_job_planned',
  'fact_chlorine_dosed',
  'fact_strip_read',
  'fact_sample_taken',
  'fact_sample_result',
  'fact_job_day_ended',
  'fact_block_done',
]

/** Work that changes in the middle of a visit, and what a visit leaves otherwise than in service. */
export class WorkChanged0016 implements MigrationInterface {
  name = 'WorkChanged00169800000000016'

  async up(run: QueryRunner): Promise<void> {
    await run.query(factTable('fact_work_changed', 'stage_id uuid not null, action text, why text'))
    await run.query(lock('fact_work_changed', OWN_FIRM))
    await run.query(`grant select, insert on fact_work_changed to ${APP_ROLE}`)
    await run.query(`alter table fact_visit_finished add column left_standing jsonb not null default '[]'`)
    await run.query(monthsFunction([...BEFORE, 'fact_work_changed']))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table fact_visit_finished drop column left_standing')
    await run.query('drop table fact_work_changed cascade')
    await run.query(monthsFunction(BEFORE))
  }
}
