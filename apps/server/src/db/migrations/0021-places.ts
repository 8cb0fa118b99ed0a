import type { MigrationInterface, QueryRunner } from 'typeorm'

/** Where a site is, by address and by coordinates, and its e-mail; a firm anywhere on the earth. */
export class Places0021 implements MigrationInterface {
  name = 'Places00219900000000021'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`
      alter table site add column street text not null default '', add column postcode text not null default '',
        add column country text not null default '', add column email text not null default '',
        add column lat double precision check (lat between -90 and 90), add column lon double precision check (lon between -180 and 180),
        add constraint both_or_neither check ((lat is null) = (lon is null))`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(
      'alter table site drop column street, drop column postcode, drop column country, drop column email, drop column lat, drop column lon',
    )
  }
}
