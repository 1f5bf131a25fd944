-- What was measured is kept by what lies how, so that it can be recomputed and shared; nobody else stores it.
create table inspection (
    lying         text primary key,
    core_version  text not null,
    measures      text not null
);
alter table model drop column inspection;
alter table model drop column core_version;
alter table model add column declared_unit text not null default 'mm';
alter table model add column revision_of integer references model(id);
alter table model add column made_by text not null default '';
create index model_revision on model(revision_of);
alter table ticket add column rotation text not null default '{"w":1.0,"x":0.0,"y":0.0,"z":0.0}';
alter table printer add column narrowest_gap_mm real not null default 0.3;
alter table printer add column longest_bridge_mm real not null default 10;
alter table printer add column raft_always integer not null default 0;
