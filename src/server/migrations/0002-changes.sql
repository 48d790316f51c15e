-- Every save is a list of edits under an id of its own: sent twice it counts once. Revisions are snapshots and may be thinned;
-- changes are small and stay, so that whoever comes back late is met change by change.
create table change (
  build_id uuid not null references build (id),
  id uuid not null,
  -- the revision that it made; null while it is set aside
  number integer,
  based_on integer not null,
  name text not null,
  edits json not null,
  saved_at timestamptz not null default now(),
  -- 'set-aside' holds one that clashed with what others had done since
  state text not null check (state in ('saved', 'set-aside')),
  primary key (build_id, id)
);
create index change_by_number on change (build_id, number);

alter table revision add column marked boolean not null default false;

-- What happened to the car is rows of its own: ten thousand of them open, list and grow at once.
create table log_entry (
  build_id uuid not null references build (id),
  id text not null,
  date text not null,
  odometer_km double precision not null,
  entry json not null,
  primary key (build_id, id)
);
create index log_entry_by_date on log_entry (build_id, date, odometer_km, id);

insert into log_entry (build_id, id, date, odometer_km, entry)
select b.id, e.value ->> 'id', e.value ->> 'date', (e.value ->> 'odometerKm')::double precision, e.value
from build b
join revision r on r.build_id = b.id and r.number = b.head
cross join lateral json_array_elements(r.document -> 'log') as e;

-- Pressure logs of a logger: channels and samples as one document.
create table recording (
  id uuid primary key default gen_random_uuid(),
  build_id uuid not null references build (id),
  name text not null,
  started_at text not null,
  data json not null,
  saved_at timestamptz not null default now()
);
create index recording_by_build on recording (build_id, started_at, id);

-- Photographs and other files that belong to a build.
create table attachment (
  id uuid primary key default gen_random_uuid(),
  build_id uuid not null references build (id),
  name text not null,
  type text not null,
  about text not null default '',
  bytes bytea not null,
  saved_at timestamptz not null default now()
);
create index attachment_by_build on attachment (build_id, saved_at, id);
