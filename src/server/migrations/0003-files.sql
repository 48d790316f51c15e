-- How much a recording holds and takes up, told without unpacking it.
alter table recording add column samples integer not null default 0;
alter table recording add column bytes integer not null default 0;
update recording set samples = json_array_length(data -> 'samples'), bytes = octet_length(data::text);

-- Pictures are compressed already: kept as they are, they can be read in pieces.
alter table attachment alter column bytes set storage external;

-- A build that is being brought in with many files is not there until the last of them is.
alter table build add column arriving boolean not null default false;
