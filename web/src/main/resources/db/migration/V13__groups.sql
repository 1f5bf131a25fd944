-- Tickets that are one thing to accept, plan and follow: a class's, a club's.
create table ticket_group (
    id         integer primary key,
    name       text not null check (length(trim(name)) > 0),
    purpose    text check (purpose in ('DISPLAY', 'EVERYDAY', 'LOAD_BEARING', 'SMALL_CHILD', 'PROTOTYPE')),
    needed_by  integer,
    made_at    integer not null
) strict;
alter table ticket add column group_id integer references ticket_group(id);
create index ticket_of_group on ticket(group_id) where group_id is not null;
