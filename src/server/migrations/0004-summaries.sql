-- What the garage last showed of a build: a restart shows it at once, and works it out anew where it is of another day, revision or Ivent.
create table summary (
  build_id uuid primary key references build (id) on delete cascade,
  revision integer not null,
  day date not null,
  made_by text not null,
  body jsonb not null
);
