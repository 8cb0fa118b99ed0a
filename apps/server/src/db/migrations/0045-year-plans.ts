import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** Plans of a whole year, offered, applied and taken back. */
export class YearPlans0045 implements MigrationInterface {
  name = 'YearPlans00459900000000045'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`create table year_plan (
      firm_id uuid not null references firm, id uuid not null, kind text not null check (kind in ('even', 'move', 'what-if')),
      state text not null check (state in ('offered', 'applied', 'undone', 'discarded')), from_day date not null, what_if jsonb,
      known jsonb not null, visits jsonb not null, shown jsonb not null, made_by uuid not null, made_at timestamptz not null,
      settled_at timestamptz, earlier_base text, primary key (firm_id, id), foreign key (firm_id, made_by) references person)`)
    await run.query('create index on year_plan (firm_id, state, settled_at)')
    await run.query(lock('year_plan', OWN_FIRM))
    await run.query(`grant select, insert, update, delete on year_plan to ${APP_ROLE}`)
    await run.query(
      `create trigger raise_revision after insert or update or delete on year_plan for each statement execute function raise_revision('records')`,
    )
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table year_plan')
  }
}
