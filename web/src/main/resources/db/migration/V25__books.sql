-- What of a plate's plastic is support; 0 in promises from before it was kept, where it counts as part of the parts.
alter table promise add column support_g real not null default 0;
-- When what was handed out was.
create index event_handed_out on event(at, ticket_id) where kind = 'handed-out';
