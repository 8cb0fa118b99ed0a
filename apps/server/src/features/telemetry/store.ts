import { createHash, randomBytes } from 'node:crypto'
import type { DeviceDto } from '@evenround/contract/telemetry'
import type { FirmScope } from '../../db/scope'
import { markSystems } from '../wear/stale'

/** Long enough that nobody guesses one; only the hash is kept. */
export const newKey = (): string => randomBytes(24).toString('base64url')
export const hashOfKey = (key: string): string => createHash('sha256').update(key).digest('base64')

type NewDevice = Pick<DeviceDto, 'id' | 'systemId' | 'name' | 'kind'>
/** A device of the firm and the hash of its key; the key itself is kept nowhere. */
export const addDevice = (scope: FirmScope, { id, systemId, name, kind }: NewDevice, key: string): Promise<unknown> =>
  scope.query(
    'insert into device (firm_id, id, system_id, name, kind, key_hash, active, version) values ($1, $2, $3, $4, $5, $6, true, 1)',
    [id, systemId, name, kind, hashOfKey(key)],
  )

/** Ends a device: its key opens nothing any more, what it reported stays. False where there is none of this id. */
export async function endDevice(scope: FirmScope, id: string): Promise<boolean> {
  const ended = await scope.query<{ id: string }>(
    'with ended as (update device set active = false where firm_id = $1 and id = $2 returning id) select id from ended',
    [id],
  )
  return ended.length > 0
}

export interface TelemetryReading {
  at: string
  seq: number
  value: number
}

/**
 * Stores a batch and folds what is new into its days, in one statement: a repeat changes nothing, a late or unordered reading finds its
 * place by its instant. Days are the firm's. Returns how many were new.
 */
export async function storeReadings(
  scope: FirmScope,
  device: { id: string; systemId: string },
  readings: readonly TelemetryReading[],
  timeZone: string,
  now: Date,
): Promise<{ stored: number; newDay: boolean }> {
  const rows = await scope.query<{ stored: string; new_days: string }>(
    `with fresh as (
       insert into device_reading (firm_id, device_id, at, seq, value)
       select $1, $2, r.at, r.seq, r.value from unnest($3::timestamptz[], $4::bigint[], $5::double precision[]) r (at, seq, value)
       on conflict do nothing returning at, value),
     days as (
       select (at at time zone $6)::date as day, min(at) as first_at, (array_agg(value order by at))[1] as first_value,
         max(at) as last_at, (array_agg(value order by at desc))[1] as last_value, count(*)::int as readings
       from fresh group by 1),
     folded as (
       insert into device_day as d (firm_id, device_id, day, first_at, first_value, last_at, last_value, readings)
       select $1, $2, day, first_at, first_value, last_at, last_value, readings from days
       on conflict (firm_id, device_id, day) do update set
         first_at = least(d.first_at, excluded.first_at),
         first_value = case when excluded.first_at < d.first_at then excluded.first_value else d.first_value end,
         last_at = greatest(d.last_at, excluded.last_at),
         last_value = case when excluded.last_at > d.last_at then excluded.last_value else d.last_value end,
         readings = d.readings + excluded.readings
       returning (xmax = 0) as made)
     select (select count(*) from fresh) as stored, (select count(*) from folded where made) as new_days`,
    [device.id, readings.map(({ at }) => at), readings.map(({ seq }) => seq), readings.map(({ value }) => value), timeZone],
  )
  // A forecast moves by the day, not by the pulse.
  const newDay = Number(rows[0]?.new_days) > 0
  if (newDay) await markSystems(scope, now, [device.systemId])
  return { stored: Number(rows[0]?.stored ?? 0), newDay }
}

/** Raw readings older than this go; their days stay. */
const KEEP_RAW_DAYS = 35

/** Thins a firm's telemetry; how many raw readings went. */
export async function thinTelemetry(scope: FirmScope, now: Date): Promise<number> {
  const rows = await scope.query<{ gone: string }>(
    `with gone as (delete from device_reading where firm_id = $1 and at < $2 returning 1) select count(*) as gone from gone`,
    [new Date(now.getTime() - KEEP_RAW_DAYS * 86_400_000)],
  )
  return Number(rows[0]?.gone ?? 0)
}

interface DeviceSql {
  id: string
  system_id: string
  name: string
  kind: DeviceDto['kind']
  active: boolean
  last_at: Date | null
  last_value: number | null
}

export async function devicesOf(scope: FirmScope, id: string | null): Promise<DeviceDto[]> {
  const rows = await scope.query<DeviceSql>(
    `select d.id, d.system_id, d.name, d.kind, d.active, l.last_at, l.last_value from device d
     left join lateral (select last_at, last_value from device_day y where y.firm_id = d.firm_id and y.device_id = d.id order by day desc limit 1) l on true
     where d.firm_id = $1 and ($2::uuid is null or d.id = $2) order by d.name, d.id`,
    [id],
  )
  return rows.map(({ system_id, last_at, last_value, ...rest }) => ({
    ...rest,
    systemId: system_id,
    lastAt: last_at?.toISOString() ?? null,
    lastValue: last_value,
  }))
}

/** A counter that says nothing for so long has lost its line or its battery. */
const SILENT_DAYS = 3

/** Counters that were heard of and are no more, the longest silent first. */
export async function silentDevices(
  scope: FirmScope,
  now: Date,
): Promise<{ siteId: string; siteName: string; name: string; heardAt: string | null }[]> {
  const rows = await scope.query<{ site_id: string; site_name: string; name: string; heard_at: Date }>(
    `select site.id as site_id, site.name as site_name, d.name, h.heard_at from device d
     join system y on y.firm_id = d.firm_id and y.id = d.system_id and y.gone_at is null
     join site on site.firm_id = y.firm_id and site.id = y.site_id and site.gone_at is null
     join lateral (select max(last_at) as heard_at from device_day w where w.firm_id = d.firm_id and w.device_id = d.id) h on true
     where d.firm_id = $1 and d.active and h.heard_at < $2::timestamptz - interval '${SILENT_DAYS} days' order by h.heard_at limit 50`,
    [now],
  )
  return rows.map(({ site_id, site_name, name, heard_at }) => ({
    siteId: site_id,
    siteName: site_name,
    name,
    heardAt: heard_at.toISOString(),
  }))
}
