-- A file that was sliced elsewhere and came without a ticket is a model that waits at the Counter to become one; the others are for a ticket.

insert into hand_over (name, token, created_at)
    select name, 'sliced-' || id, taken_at from sliced_file where ticket_id is null;
insert into model (hand_over_id, name, sha256, bytes, format, problem, declared_unit)
    select h.id, s.name, s.sha256, s.bytes, 'GCODE', null, 'mm' from sliced_file s join hand_over h on h.token = 'sliced-' || s.id
    where s.ticket_id is null;

alter table sliced_file rename to old_sliced_file;
drop index sliced_file_ticket;
drop index sliced_file_file;
drop index sliced_file_token;
create table sliced_file (
    id         integer primary key,
    ticket_id  integer not null references ticket(id),
    name       text not null,
    sha256     text not null,
    bytes      integer not null,
    taken_at   integer not null,
    token      text
) strict;
insert into sliced_file select * from old_sliced_file where ticket_id is not null;
create index sliced_file_ticket on sliced_file(ticket_id);
create index sliced_file_file on sliced_file(sha256);
create unique index sliced_file_token on sliced_file(token);
drop table old_sliced_file;
