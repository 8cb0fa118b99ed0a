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
]

/** Blocks of a run sheet that are ticked at once. */
export class Blocks0015 implements MigrationInterface {
  name = 'Blocks00159800000000015'

  async up(run: QueryRunner): Promise<void> {
    await run.query(factTable('fact_block_done', 'block text not null, steps jsonb not null'))
    await run.query(lock('fact_block_done', OWN_FIRM))
    await run.query(`grant select, insert on fact_block_done to ${APP_ROLE}`)
    await run.query(monthsFunction([...BEFORE, 'fact_block_done']))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table fact_block_done cascade')
    await run.query(monthsFunction(BEFORE))
  }
}
