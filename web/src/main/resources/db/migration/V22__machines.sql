-- Where a printer's machine is reached, and who answered there first.
create table machine (
    printer_id   text primary key references printer(id) on delete cascade,
    host         text not null check (host <> ''),
    port         integer not null check (port between 1 and 65535),
    camera_port  integer check (camera_port between 1 and 65535),
    uuid         text not null default '',
    calls        text not null default ''
) strict, without rowid;
-- A file that was put on a machine for a plate; the run that somebody began with it, and how far the machine came.
create table machine_file (
    file         text primary key,
    printer_id   text not null references printer(id) on delete cascade,
    plate_id     integer not null references plate(id) on delete cascade,
    hash         text not null,
    sha256       text,
    mark         text not null,
    checked      integer not null check (checked in (0, 1)),
    layers       integer not null,
    sent_at      integer not null,
    ordered_at   integer,
    ordered_by   integer references account(id),
    run_id       integer unique references run(id) on delete cascade,
    layer        integer not null default 0,
    filament_mm  real not null default 0,
    over_at      integer,
    whole        integer check (whole in (0, 1)),
    seconds      real,
    cleared_at   integer,
    check (run_id is null or ordered_at is not null),
    check (over_at is null or run_id is not null),
    check ((over_at is null) = (whole is null) and (over_at is null) = (seconds is null))
) strict, without rowid;
create index machine_file_printer on machine_file(printer_id) where cleared_at is null;
create index machine_file_plate on machine_file(plate_id);
create index machine_file_sha256 on machine_file(sha256) where sha256 is not null;
-- When a run is expected to end, by its machine; null as long as there is only the promise.
alter table run add column expected_at integer;
-- When somebody looked at its first layer; null until then.
alter table run add column first_layer_at integer;
