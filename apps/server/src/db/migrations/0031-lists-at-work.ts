import type { MigrationInterface, QueryRunner } from 'typeorm'

/** A list is brought in by the queue: how far it is, and how it ended. */
export class ListsAtWork0031 implements MigrationInterface {
  name = 'ListsAtWork00319900000000031'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table intake
      add column state text not null default 'done' check (state in ('waiting', 'working', 'done', 'stopped', 'failed')),
      add column progress real not null default 1, add column stop_asked boolean not null default false,
      add column left_out int not null default 0, add column failure text`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(
      'alter table intake drop column state, drop column progress, drop column stop_asked, drop column left_out, drop column failure',
    )
  }
}
