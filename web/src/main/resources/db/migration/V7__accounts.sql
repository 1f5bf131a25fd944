-- Names are one whatever their case; of those that differed by it only, the later ones get their number.
update account set username = username || '-' || id where exists (
    select 1 from account other where other.id < account.id and other.username = account.username collate nocase);
create unique index account_name on account(username collate nocase);
-- A closed account cannot sign in; a code lets its holder set a new password once.
alter table account add column closed integer not null default 0;
alter table account add column code text;
alter table account add column code_until text;
-- What browsers are known by is signed with this.
create table secret (
    id     integer primary key check (id = 1),
    value  text not null
);
