import type { MigrationInterface, QueryRunner } from 'typeorm'

const FIRM = `nullif(current_setting('app.firm_id', true), '')::uuid`

/**
 * The lock asks which firm it is once a statement and no longer once a row: as a sub-select PostgreSQL takes it for a constant. On sixty
 * thousand rows that was most of a search's time.
 */
async function relock(run: QueryRunner, firm: string): Promise<void> {
  const policies: { tablename: string }[] = await run.query(
    `select tablename from pg_policies where schemaname = 'public' and policyname = 'own_firm' and qual not like '%app.door%' order by 1`,
  )
  for (const { tablename } of policies)
    await run.query(`alter policy own_firm on ${tablename} using (firm_id = ${firm}) with check (firm_id = ${firm})`)
}

const SEARCH = `
alter table system add column search text not null generated always as (lower(name)) stored;
create index on stage_forecast (firm_id, part_search, stage_id);
create index stage_forecast_by_risk on stage_forecast (firm_id, p50, stage_id) include (fitted_on, p10, p90, due_on, media, school, site_id);
`

export class DueSearch0007 implements MigrationInterface {
  name = 'DueSearch0007700000000007'

  async up(run: QueryRunner): Promise<void> {
    await relock(run, `(select ${FIRM})`)
    await run.query(SEARCH)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop index stage_forecast_by_risk')
    await run.query('drop index stage_forecast_firm_id_part_search_stage_id_idx')
    await run.query('alter table system drop column search')
    await relock(run, FIRM)
  }
}
