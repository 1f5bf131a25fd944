-- Days that models, photos and members are kept after they were last needed; 0 keeps them for good.
alter table lab add column keep_models_days integer not null default 0 check (keep_models_days >= 0);
alter table lab add column keep_photos_days integer not null default 0 check (keep_photos_days >= 0);
alter table lab add column keep_members_days integer not null default 0 check (keep_members_days >= 0);
-- Members who are forgotten keep their number, so that counts stay.
alter table member add column since text not null default '';
update member set since = strftime('%Y-%m-%dT%H:%M:%SZ', 'now');
alter table member add column forgotten_at text;
-- A model whose file is no longer kept names none.
drop index model_file;
alter table model rename column sha256 to first_sha256;
alter table model add column sha256 text;
update model set sha256 = first_sha256;
alter table model drop column first_sha256;
create index model_file on model(sha256) where sha256 is not null;
create index model_hand_over on model(hand_over_id);
create index ticket_member on ticket(member_id);
create index run_ticket on run(ticket_id);
-- History stays as it is but for names, and for those only while a member is being forgotten.
create table forgetting (
    member_id integer primary key references member(id)
);
drop trigger ticket_event_is_append_only;
create trigger ticket_event_is_append_only before update on ticket_event
when not exists (select 1 from forgetting)
    or (new.id, new.ticket_id, new.at, new.what) is not (old.id, old.ticket_id, old.at, old.what)
begin select raise(abort, 'history is append-only'); end;
