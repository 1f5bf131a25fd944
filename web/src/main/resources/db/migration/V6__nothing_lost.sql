-- Forms that make something new and were sent: sent again they make nothing more.
create table form_token (
    token    text primary key,
    sent_at  text not null
) without rowid;
alter table sliced_file add column token text;
create unique index sliced_file_token on sliced_file(token);
-- Which files are named is asked whenever one may go.
create index model_file on model(sha256);
create index sliced_file_file on sliced_file(sha256);
create index run_photo on run(photo_sha256) where photo_sha256 is not null;
-- A set-up that was cut short left a coordinator without a lab.
insert into lab (id, name, currency, limit_mb, opens, closes)
    select 1, 'Lab', 'EUR', 200, '09:00', '20:00' where exists (select 1 from account) and not exists (select 1 from lab);
