import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { FACTS_0018 } from './0018-from-the-door'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

/** What the stored forecast said of a part on the day it was taken out, and how it was found. */
const JUDGED = `
create table forecast_judged (
  firm_id uuid not null references firm, id uuid not null, stage_id uuid not null, on_day date not null, good double precision not null
  check (good between 0 and 1), found text not null, p10 date not null, p50 date not null, p90 date not null, computed_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, stage_id) references stage);
`

/** Who was told of a hold; and forecasts kept as they were when the part they spoke of came out. */
export class Office0027 implements MigrationInterface {
  name = 'Office00279900000000027'

  async up(run: QueryRunner): Promise<void> {
    await run.query(factTable('fact_hold_told', 'hold_id uuid not null, whom text not null, how text not null'))
    await run.query('create index on fact_hold_told (firm_id, hold_id)')
    await run.query(JUDGED)
    // When somebody was heard of last is asked every minute, and must not be looked for among all facts.
    await run.query('create index fact_receipt_by_person on fact_receipt (firm_id, person_id, arrived_at)')
    for (const table of ['fact_hold_told', 'forecast_judged']) {
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert on ${table} to ${APP_ROLE}`)
    }
    await run.query(monthsFunction([...FACTS_0018, 'fact_hold_told']))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop index fact_receipt_by_person')
    await run.query('drop table forecast_judged')
    await run.query('drop table fact_hold_told cascade')
    await run.query(monthsFunction(FACTS_0018))
  }
}
