-- A promise is kept as it was worked out beside what was told, with the runs that had taught it by then; until now the one was the other.
alter table promise add column least_g real not null default 0;
alter table promise add column most_g real not null default 0;
alter table promise add column runs integer not null default 0;
alter table promise add column raw_phases text not null default '{}' check (json_valid(raw_phases));
alter table promise add column raw_s real not null default 0;
alter table promise add column raw_g real not null default 0;
update promise set least_g = grams, most_g = grams, raw_phases = phases, raw_s = total_s, raw_g = grams;
-- How long a machine heated, got ready and was paused; null where it does not tell.
alter table machine_file add column heating_s real;
alter table machine_file add column readying_s real;
alter table machine_file add column paused_s real;
-- How it is known what a run took. Of earlier runs: what nobody changed came from the machine or the promise.
alter table run add column minutes_from text check (minutes_from in ('MACHINE', 'MEASURED', 'ESTIMATE'));
alter table run add column grams_from text check (grams_from in ('MACHINE', 'MEASURED', 'ESTIMATE'));
update run set
    minutes_from = case
        when exists (select 1 from machine_file f where f.run_id = run.id and abs(f.seconds / 60 - real_minutes) < 0.1) then 'MACHINE'
        when (select abs(max(1, round(m.total_s / 60)) - real_minutes) < 0.1 from promise m where m.id = promise_id) then 'ESTIMATE'
        else 'MEASURED' end,
    grams_from = case
        when exists (select 1 from machine_file f where f.run_id = run.id and f.over_at is not null and f.filament_mm > 0) then 'MACHINE'
        when (select abs(m.grams - real_g) < 0.06 from promise m where m.id = promise_id) then 'ESTIMATE'
        else 'MEASURED' end
where state <> 'RUNNING';
-- Where on a print something is wrong, and at what height; null where nobody has said.
alter table run_defect add column site text;
alter table run_defect add column height_mm real;
-- A plate that prints again what failed, and the one thing that is changed for it.
create table retry (
    plate_id  integer primary key references plate(id) on delete cascade,
    run_id    integer not null references run(id) on delete cascade,
    remedy    text not null
) strict;
create index retry_run on retry(run_id);
-- What decides how the parts of a run print, by which others are found that are alike.
create table run_likeness (
    run_id        integer not null references run(id) on delete cascade,
    height_mm     real not null,
    contact_mm2   real not null,
    volume_mm3    real not null,
    shadow_mm2    real not null,
    overhang_mm2  real not null
) strict;
create index run_likeness_run on run_likeness(run_id);
create index run_likeness_height on run_likeness(height_mm, volume_mm3);
