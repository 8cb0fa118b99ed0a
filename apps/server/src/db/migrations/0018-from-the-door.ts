import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

const NEW = {
  fact_fault_noted: 'fault_id uuid not null, system_id uuid not null, stage_id uuid, what text not null, text text not null',
  fact_fault_settled: 'fault_id uuid not null, how text not null, note text not null',
  fact_site_mended: 'field text not null, value text not null',
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
  'fact_block_done',
  'fact_work_changed',
]

/** Every kind of fact from here on, for the migration that adds the next. */
export const FACTS_0018 = [...BEFORE, ...Object.keys(NEW)]

/** What is seen at the door and is not today's work, and what is mended of a site's own page there; who drew a train, where a visit's work is done, and what a softener is read by. */
export class FromTheDoor0018 implements MigrationInterface {
  name = 'FromTheDoor00189800000000018'

  async up(run: QueryRunner): Promise<void> {
    for (const [table, columns] of Object.entries(NEW)) {
      await run.query(factTable(table, columns))
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert on ${table} to ${APP_ROLE}`)
    }
    await run.query('create index on fact_fault_noted (firm_id, fault_id)')
    await run.query('create index on fact_fault_settled (firm_id, fault_id)')
    await run.query('alter table fact_visit_begun add column place text')
    await run.query(
      'alter table fact_stage_reading add column hardness_in_mg_l double precision, add column hardness_out_mg_l double precision, add column salt_kg double precision',
    )
    await run.query('alter table train_version add column drawn_by uuid, add column drawn_at timestamptz')
    await run.query(monthsFunction(FACTS_0018))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('alter table fact_visit_begun drop column place')
    await run.query('alter table fact_stage_reading drop column hardness_in_mg_l, drop column hardness_out_mg_l, drop column salt_kg')
    await run.query('alter table train_version drop column drawn_by, drop column drawn_at')
    await run.query(`drop table ${Object.keys(NEW).join(', ')} cascade`)
    await run.query(monthsFunction(BEFORE))
  }
}
