import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock } from './parts'

/**
 * Which backups of the whole server were made and whether they were good, for every owner to see; and a row that nobody bound by
 * row-level security can read, so that a dump by such a role fails where it would otherwise be empty.
 */
export class Backups0041 implements MigrationInterface {
  name = 'Backups00419900000000041'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`create table backup_attempt (
      began_at timestamptz primary key, ended_at timestamptz not null, kind text not null, checked boolean, failed text, bytes bigint)`)
    await run.query(lock('backup_attempt', 'true'))
    await run.query(`grant select on backup_attempt to ${APP_ROLE}`)
    await run.query('create table dump_guard (id int primary key)')
    await run.query('insert into dump_guard values (1)')
    await run.query(`create function refuse_dump() returns boolean stable language plpgsql as $$
    begin
      raise exception 'The role % sees the rows of one firm at most: a dump made as it has no customer in it.', current_user
        using hint = 'Make backups with bin/backup, or dump as a superuser.', errcode = 'insufficient_privilege';
    end $$`)
    await run.query(lock('dump_guard', 'refuse_dump()'))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop table dump_guard')
    await run.query('drop function refuse_dump()')
    await run.query('drop table backup_attempt')
  }
}
