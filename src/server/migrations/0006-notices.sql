-- Several Ivents on one database tell each other what has changed: who did it, what, and of which build. In the embedded database nobody
-- listens.
create function ivent_notice() returns trigger language plpgsql as $$
declare
  changed record;
  build uuid;
begin
  if tg_op = 'DELETE' then changed := old; else changed := new; end if;
  build := (to_jsonb(changed) ->> tg_argv[0])::uuid;
  perform pg_notify('ivent', current_setting('application_name') || ' ' || tg_table_name || coalesce(' ' || build::text, ''));
  return null;
end
$$;
create trigger build_notice after insert or update or delete on build for each row execute function ivent_notice('id');
create trigger attachment_notice after insert or delete on attachment for each row execute function ivent_notice('build_id');
create trigger device_notice after insert or delete or update of name, rights on device for each row execute function ivent_notice('none');
