-- What each printer does before and after a print, in the lab's own words; empty leaves the usual.
alter table printer add column own_start text not null default '';
alter table printer add column own_end text not null default '';
-- Members of a class pay its share of the price.
alter table member add column class text not null default '';
update lab set tariff = json_set(tariff, '$.perGram', 0, '$.rates', json('{}')) where tariff is not null;
-- A sliced file may come without a ticket.
create table sliced_file_kept (
    id         integer primary key,
    ticket_id  integer references ticket(id),
    name       text not null,
    sha256     text not null,
    bytes      integer not null,
    taken_at   text not null
);
insert into sliced_file_kept select id, ticket_id, name, sha256, bytes, taken_at from sliced_file;
drop table sliced_file;
alter table sliced_file_kept rename to sliced_file;
create index sliced_file_ticket on sliced_file(ticket_id);
-- Levelling and flow calibration were done lately and are skipped.
alter table ticket add column fresh integer not null default 0;
