-- What was practised: a lesson or a hunt, by its key, and how it went. It belongs to the shop, as the builds do, and can be taken away.
create table practice (
  key text primary key,
  body jsonb not null,
  at timestamptz not null default now()
);
create trigger practice_notice after insert or delete or update on practice for each row execute function ivent_notice('none');
