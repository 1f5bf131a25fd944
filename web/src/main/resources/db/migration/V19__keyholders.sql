-- Who has a key: what each may do at a machine, and when each is on duty.
create table keyholder (
    id    integer primary key autoincrement,
    name  text not null unique check (name <> ''),
    may   text not null
) strict;
create table keyholder_hours (
    keyholder_id  integer not null references keyholder(id) on delete cascade,
    weekday       integer not null check (weekday between 1 and 7),
    from_min      integer not null check (from_min >= 0),
    to_min        integer not null check (to_min > from_min and to_min <= 1440),
    primary key (keyholder_id, weekday, from_min)
) strict, without rowid;
create table keyholder_day (
    keyholder_id  integer not null references keyholder(id) on delete cascade,
    day           text not null check (day glob '????-??-??'),
    note          text not null default '',
    primary key (keyholder_id, day)
) strict, without rowid;
create table keyholder_day_hours (
    keyholder_id  integer not null,
    day           text not null,
    from_min      integer not null check (from_min >= 0),
    to_min        integer not null check (to_min > from_min and to_min <= 1440),
    primary key (keyholder_id, day, from_min),
    foreign key (keyholder_id, day) references keyholder_day(keyholder_id, day) on delete cascade
) strict, without rowid;
