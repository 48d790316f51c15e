-- A build is a chain of revisions; every save adds one and none is ever changed.
create table build (
  id uuid primary key default gen_random_uuid(),
  name text not null,
  head integer not null,
  created_at timestamptz not null default now(),
  removed_at timestamptz
);

-- json, not jsonb: the document comes back as it was written.
create table revision (
  build_id uuid not null references build (id),
  number integer not null,
  based_on integer,
  document json not null,
  saved_at timestamptz not null default now(),
  -- 'set-aside' holds a save that was refused because another had come first
  state text not null check (state in ('saved', 'set-aside')),
  note text not null default '',
  primary key (build_id, number)
);
