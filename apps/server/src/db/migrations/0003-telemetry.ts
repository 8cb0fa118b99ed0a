import type { MigrationInterface, QueryRunner } from 'typeorm'
import { APP_ROLE } from '../roles'
import { lock, OWN_FIRM } from './parts'

/** A device knows its key and nothing else: this door opens its own row before the firm is known. */
const AT_THE_DEVICE_DOOR = `current_setting('app.door', true) = 'device'`

/**
 * Telemetry is no fact: it is thinned. Every reading falls into its device's day as it arrives, so that raw readings can go after some
 * weeks while first, last and number of each day stay.
 */
const TELEMETRY = `
create table device (
  firm_id uuid not null references firm, id uuid not null, system_id uuid not null, name text not null,
  kind text not null check (kind in ('pulse-counter', 'lamp-controller')), key_hash text not null unique, active boolean not null,
  version int not null, primary key (firm_id, id), foreign key (firm_id, system_id) references system);
create index on device (firm_id, system_id);
create table device_reading (
  firm_id uuid not null, device_id uuid not null, at timestamptz not null, seq bigint not null, value double precision not null,
  primary key (firm_id, device_id, at, seq), foreign key (firm_id, device_id) references device);
create index on device_reading (firm_id, at);
create table device_day (
  firm_id uuid not null, device_id uuid not null, day date not null, first_at timestamptz not null, first_value double precision not null,
  last_at timestamptz not null, last_value double precision not null, readings int not null,
  primary key (firm_id, device_id, day), foreign key (firm_id, device_id) references device);
`
const TABLES = ['device', 'device_reading', 'device_day']

export class Telemetry0003 implements MigrationInterface {
  name = 'Telemetry0003700000000003'

  async up(run: QueryRunner): Promise<void> {
    await run.query(TELEMETRY)
    await run.query(lock('device', `${OWN_FIRM} or ${AT_THE_DEVICE_DOOR}`))
    for (const table of ['device_reading', 'device_day']) await run.query(lock(table, OWN_FIRM))
    await run.query(`grant select, insert, update, delete on ${TABLES.join(', ')} to ${APP_ROLE}`)
  }

  async down(run: QueryRunner): Promise<void> {
    await run.query(`drop table ${[...TABLES].reverse().join(', ')} cascade`)
  }
}
