-- Where what is printed lies until it is collected, how often its member is reminded, and when it is put away.
alter table ticket add column shelf text not null default '';
alter table lab add column remind_days integer not null default 3 check (remind_days >= 0);
alter table lab add column shelf_days integer not null default 30 check (shelf_days >= 0);
