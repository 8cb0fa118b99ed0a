/** Pieces of SQL that several migrations share. Migrations that ran are never changed, so neither is what these give them. */

const FIRM = `nullif(current_setting('app.firm_id', true), '')::uuid`
export const OWN_FIRM = `firm_id = ${FIRM}`

/** An append-only table of facts, partitioned by month of \`at\`. */
export const factTable = (name: string, columns: string): string => `
create table ${name} (
  firm_id uuid not null, id uuid not null, at timestamptz not null, arrived_at timestamptz not null, person_id uuid not null,
  device_id uuid not null, seq bigint not null, site_id uuid not null, visit_id uuid not null, supersedes uuid,
  voided boolean not null, flags text[] not null, ${columns},
  primary key (firm_id, id, at), foreign key (firm_id, site_id) references site, foreign key (firm_id, person_id) references person
) partition by range (at);
create index on ${name} (firm_id, visit_id);
create index on ${name} (firm_id, site_id, at);
create index on ${name} (firm_id, supersedes) where supersedes is not null;
create table ${name}_rest partition of ${name} default;
create trigger append_only before update or delete on ${name} for each row execute function refuse_change();
`

/** Months get partitions of their own ahead of time; what falls outside waits in the default one. */
export const monthsFunction = (tables: readonly string[]): string => `
create or replace function ensure_fact_months(first date, last date) returns void language plpgsql security definer set search_path = public as $$
declare
  parent text;
  month date := date_trunc('month', first)::date;
begin
  while month <= last loop
    foreach parent in array array[${tables.map((name) => `'${name}'`).join(', ')}] loop
      if to_regclass(format('%s_%s', parent, to_char(month, 'YYYYMM'))) is null then
        begin
          execute format('create table %I partition of %I for values from (%L) to (%L)', parent || '_' || to_char(month, 'YYYYMM'), parent,
            to_char(month, 'YYYY-MM-DD') || ' 00:00:00+00', to_char(month + interval '1 month', 'YYYY-MM-DD') || ' 00:00:00+00');
        exception when check_violation then
          null; -- rows of that month already wait in the default partition, where they stay readable
        end;
      end if;
    end loop;
    month := (month + interval '1 month')::date;
  end loop;
end $$;`

/** Row-level security that even the owner is bound by. */
export const lock = (table: string, open: string): string => `
alter table ${table} enable row level security;
alter table ${table} force row level security;
create policy own_firm on ${table} using (${open}) with check (${open});
`
