-- Members and the grown-ups who answer for them are told by mail; a member collects by a code.
alter table member add column email text not null default '';
alter table member add column grown_up_email text not null default '';
alter table ticket add column collect_code text not null default '';
update ticket set collect_code = substr('ABCDEFGHJKLMNPQRSTUVWXYZ23456789', abs(random()) % 32 + 1, 1) ||
    substr('ABCDEFGHJKLMNPQRSTUVWXYZ23456789', abs(random()) % 32 + 1, 1) ||
    substr('ABCDEFGHJKLMNPQRSTUVWXYZ23456789', abs(random()) % 32 + 1, 1) ||
    substr('ABCDEFGHJKLMNPQRSTUVWXYZ23456789', abs(random()) % 32 + 1, 1);
create index ticket_collect_code on ticket(collect_code);
-- What was to be told before there was a post stands on the pages; it is not sent long after.
alter table outbox add column channel text not null default '';
alter table outbox add column tries integer not null default 0;
alter table outbox add column next_at integer not null default 0;
update outbox set delivered_at = (select at from event e where e.id = event_id), channel = 'PAGE' where delivered_at is null;
drop index outbox_waiting;
create index outbox_waiting on outbox(next_at) where delivered_at is null;
