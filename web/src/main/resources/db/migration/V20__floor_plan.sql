-- The floor plan that holds: where each plate that waits is, as it was published, and whether it is to stay there.
create table publication (
    id            integer primary key autoincrement,
    published_at  integer not null,
    published_by  text not null,
    what          text not null
) strict;
create table slot (
    plate_id     integer primary key references plate(id),
    printer_id   text not null references printer(id),
    start_at     integer not null,
    end_at       integer not null,
    hand_out_at  integer not null,
    pinned       integer not null check (pinned in (0, 1))
) strict;
-- A floor plan that is being made, step by step: the last one is the draft, the one before it what undoing leads back to.
create table draft (
    id       integer primary key autoincrement,
    made_at  integer not null,
    made_by  text not null,
    what     text not null,
    placed   text not null
) strict;
-- By when a ticket can be collected, as its member was told last.
create table promised (
    ticket_id   integer primary key references ticket(id),
    collect_at  integer not null
) strict;
-- By which a screen in the room and people's calendars may read the floor plan without signing in.
create table wall (
    id   integer primary key check (id = 1),
    key  text not null
) strict;
