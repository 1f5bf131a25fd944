-- What keeps a printer takes its time and somebody who may do it; what is due after no running at all is done before each print.
create table new_task (
    id           integer primary key,
    printer_id   text not null references printer(id) on delete cascade,
    what         text not null,
    every_hours  real check (every_hours >= 0),
    every_days   integer check (every_days > 0),
    since        integer not null,
    since_hours  real not null,
    takes_min    real not null check (takes_min >= 0),
    who          text not null check (who in ('CLEAR', 'CHANGE_NOZZLE')),
    check (every_hours is not null or every_days is not null)
) strict;
insert into new_task select id, printer_id, what, every_hours, every_days, since, since_hours, 15, 'CHANGE_NOZZLE' from maintenance_task;
create table new_done (
    task_id     integer not null references new_task(id) on delete cascade,
    at          integer not null,
    by_account  integer references account(id),
    hours       real not null,
    primary key (task_id, at)
) strict, without rowid;
insert into new_done select task_id, at, by_account, hours from maintenance_done;
drop table maintenance_done;
drop table maintenance_task;
alter table new_task rename to maintenance_task;
alter table new_done rename to maintenance_done;
create index maintenance_task_printer on maintenance_task(printer_id);
-- A printer that is down only until its first print has been checked.
alter table printer add column unproved integer not null default 0 check (unproved in (0, 1));
