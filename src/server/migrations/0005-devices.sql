-- Devices that were let in from the local network. A session's token is known to its device alone: here stands its hash.
create table device (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  rights text not null check (rights in ('all', 'log', 'look')),
  token_hash text not null unique,
  paired_at timestamptz not null default now(),
  last_seen timestamptz not null default now()
);

-- Who made a change: a device by the name that it had, or null for the bench.
alter table revision add column made_by text;
alter table change add column made_by text;
