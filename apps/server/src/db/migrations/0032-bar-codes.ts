import type { MigrationInterface, QueryRunner } from 'typeorm'

/** What is printed on a part's box, and whom it is bought from. */
export class BarCodes0032 implements MigrationInterface {
  name = 'BarCodes00329900000000032'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table part add column barcode text not null default '', add column supplier text not null default ''`)
    await run.query(`create unique index part_barcode on part (firm_id, barcode) where barcode <> ''`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('drop index part_barcode')
    await run.query('alter table part drop column barcode, drop column supplier')
  }
}
