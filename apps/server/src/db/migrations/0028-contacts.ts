import type { MigrationInterface, QueryRunner } from 'typeorm'

const wordsOf = (more: string): string => `
create or replace function site_words(s site) returns text language sql stable set search_path = public as $$
  select concat_ws(' ', s.name, s.village, s.island, s.street, s.postcode, s.country, s.contact, s.phone, regexp_replace(s.phone, '[^0-9]', '', 'g'), s.email, s.access${more}) $$;`

/** More people to ask for at a site, besides the first. */
export class Contacts0028 implements MigrationInterface {
  name = 'Contacts00289900000000028'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table site add column contacts jsonb not null default '[]'`)
    await run.query(
      wordsOf(
        `, (select string_agg(concat_ws(' ', c->>'name', c->>'role', c->>'phone', c->>'email'), ' ') from jsonb_array_elements(s.contacts) c)`,
      ),
    )
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(wordsOf(''))
    await run.query('alter table site drop column contacts')
  }
}
