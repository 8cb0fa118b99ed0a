import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'

/** Photos of an installation and of its labels belong to the system and to no visit. */
export class PhotosOfSystems0033 implements MigrationInterface {
  name = 'PhotosOfSystems00339900000000033'

  async up(run: QueryRunner): Promise<void> {
    await run.query(`alter table photo alter column visit_id drop not null, alter column stage_id drop not null,
      add column system_id uuid, add column what text not null default 'finding' check (what in ('finding', 'installation', 'label')),
      add constraint photo_system foreign key (firm_id, system_id) references system,
      add constraint photo_of_something check (system_id is not null or (visit_id is not null and stage_id is not null))`)
    await run.query('create index on photo (firm_id, system_id) where system_id is not null')
    // Where a photo is filed changes with its system; what it shows never does.
    await run.query(`grant update (site_id) on photo to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query('delete from photo_bytes b using photo p where p.firm_id = b.firm_id and p.id = b.photo_id and p.system_id is not null')
    await run.query('delete from photo where system_id is not null')
    await run.query(`revoke update (site_id) on photo from ${APP_ROLE}`)
    await run.query('alter table photo drop column system_id, drop column what')
    await run.query('alter table photo alter column visit_id set not null, alter column stage_id set not null')
  }
}
