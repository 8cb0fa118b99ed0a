import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

const NEW = {
  fact_block_done: 'block text not null, steps jsonb not null',
  fact_work_changed: 'stage_id uuid not null, action text, why text',
}
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
]

/** Blocks ticked at once, work that changes in the middle of a visit, and what a visit leaves otherwise than in service. */
export class ChangingVisits0015 implements MigrationInterface {
  name = 'ChangingVisits00159800000000015'

  async up(run: QueryRunner): Promise<void> {
    for (const [table, columns] of Object.entries(NEW)) {
      await run.query(factTable(table, columns))
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert on ${table} to ${APP_ROLE}`)
    }
    await run.query(`alter table fact_visit_finished add column left_standing jsonb not null default '[]'`)
    await run.query(monthsFunction([...BEFORE, ...Object.keys(NEW)]))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table fact_visit_finished drop column left_standing')
    await run.query(`drop table ${Object.keys(NEW).join(', ')} cascade`)
    await run.query(monthsFunction(BEFORE))
  }
}
