import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { factTable, lock, monthsFunction, OWN_FIRM } from './parts'

const NEW = {
  fact_job_planned: 'plan jsonb not null',
  fact_chlorine_dosed:
    "step_key text not null, amount double precision not null check (amount > 0), unit text not null check (unit in ('mL', 'g'))",
  fact_strip_read:
    "place text not null, purpose text not null, method text not null check (method in ('strip', 'smell')), scale_range text not null, mg_l double precision, dilution double precision not null, check (mg_l is not null or method = 'smell')",
  fact_sample_taken:
    'bottle text not null, laboratory text not null, place text not null, dechlorinating boolean not null, chlorine_mg_l double precision not null',
  fact_sample_result:
    'sample_id uuid not null, total_coliform text not null, e_coli text not null, others jsonb not null, report_number text not null, report_day text not null',
  fact_job_day_ended: 'job_day text not null, outcome text not null, note text not null',
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
]

const TABLES = `
create table disinfection (
  firm_id uuid not null references firm, id uuid not null, site_id uuid not null, targets text[] not null, stand text not null,
  next_act text, next_from timestamptz, next_to timestamptz, technician_id uuid not null, dose_day text not null, again_on text,
  after_job uuid, changed_at timestamptz not null,
  primary key (firm_id, id), foreign key (firm_id, site_id) references site
);
create index on disinfection (firm_id, site_id);
create table chlorine_product (
  firm_id uuid not null references firm, id uuid not null, version int not null, name text not null,
  form text not null check (form in ('liquid', 'solid')), percent double precision not null check (percent > 0 and percent <= 100),
  basis text check (basis in ('w/w', 'w/v')), density_kg_l double precision, strength_as text not null, thickened boolean not null,
  filled_on text, stored_at_c double precision not null,
  primary key (firm_id, id), check (form = 'solid' or basis is not null), check (basis is distinct from 'w/w' or density_kg_l > 0)
);
alter table stop add column job_id uuid, add column job_day text,
  add constraint job_whole check ((job_id is null) = (job_day is null));
create unique index stop_job on stop (firm_id, job_id, job_day) where job_id is not null;
`

/** Disinfections: their facts, where each stands, their days on the road, and the chlorine a firm buys. */
export class Disinfection0009 implements MigrationInterface {
  name = 'Disinfection0009700000000009'

  async up(run: QueryRunner): Promise<void> {
    for (const [table, columns] of Object.entries(NEW)) {
      await run.query(factTable(table, columns))
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert on ${table} to ${APP_ROLE}`)
    }
    await run.query(monthsFunction([...BEFORE, ...Object.keys(NEW)]))
    await run.query(TABLES)
    for (const table of ['disinfection', 'chlorine_product']) {
      await run.query(lock(table, OWN_FIRM))
      await run.query(`grant select, insert, update on ${table} to ${APP_ROLE}`)
    }
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop index stop_job')
    await run.query('alter table stop drop constraint job_whole, drop column job_id, drop column job_day')
    await run.query(`drop table chlorine_product, disinfection, ${Object.keys(NEW).join(', ')} cascade`)
    await run.query(monthsFunction(BEFORE))
  }
}
