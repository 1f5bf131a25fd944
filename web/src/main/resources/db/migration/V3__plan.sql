alter table printer add column flow_s real not null default 0;
alter table printer add column picture_s real not null default 0;
alter table printer add column end_s real not null default 5;
alter table lab add column tariff text;
-- Files that members had sliced elsewhere: kept beside the ticket, judged anew whenever they are looked at.
create table sliced_file (
    id         integer primary key,
    ticket_id  integer not null references ticket(id),
    name       text not null,
    sha256     text not null,
    bytes      integer not null,
    taken_at   text not null
);
create index sliced_file_ticket on sliced_file(ticket_id);
