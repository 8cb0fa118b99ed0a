import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

const NEW = {
  fact_step_surprise: 'step_key text not null, answer text not null',
  fact_hold_lifted: 'hold_id uuid not null, proof text not null',
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
]

/** A stop that goes on from an earlier visit: why, and when it may begin at the earliest and should at the latest. */
const FOLLOWS = `
alter table stop add column follows_visit uuid, add column follows_why text, add column not_before timestamptz, add column not_after timestamptz,
  add constraint follows_whole check ((follows_visit is null) = (follows_why is null));
create unique index stop_follows on stop (firm_id, follows_visit) where follows_visit is not null;
`

/** Surprises on the sheet, holds lifted, and the visits that follow others. */
export class Visit0008 implements MigrationInterface {
  name = 'Visit0008700000000008'

  async up(run: QueryRunner): Promise<void> {
    for (const [table, columns] of Object.entries(NEW)) {
      await run.query(factTable(table, columns))
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert on ${table} to ${APP_ROLE}`)
    }
    await run.query('create index on fact_hold_lifted (firm_id, hold_id)')
    await run.query(monthsFunction([...BEFORE, ...Object.keys(NEW)]))
    await run.query(FOLLOWS)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop index stop_follows')
    await run.query(
      'alter table stop drop constraint follows_whole, drop column follows_visit, drop column follows_why, drop column not_before, drop column not_after',
    )
    await run.query(`drop table ${Object.keys(NEW).join(', ')} cascade`)
    await run.query(monthsFunction(BEFORE))
  }
}
