import type { MigrationInterface, QueryRunner } from 'typeorm'

const searched = (words: string): string => `
create or replace function search_system() returns trigger language plpgsql security definer set search_path = public as $$
begin
  if new.gone_at is not null then
    delete from search_entry where firm_id = new.firm_id and kind = 'system' and ref = new.id;
  else
    perform put_search(new.firm_id, 'system', new.id, new.site_id, new.name, ${words}, null);
  end if;
  return null;
end $$`

/** The serial number on a system's plate, found by the search like its name. */
export class SerialNumbers0037 implements MigrationInterface {
  name = 'SerialNumbers00379900000000037'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table system add column serial_no text not null default '' check (length(serial_no) <= 60)`)
    await run.query(searched(`concat_ws(' ', new.name, new.serial_no)`))
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(searched('new.name'))
    await run.query('alter table system drop column serial_no')
  }
}
