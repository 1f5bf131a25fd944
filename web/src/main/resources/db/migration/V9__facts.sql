-- The house is rebuilt on strict tables: times in milliseconds since 1970, money in the currency's smallest coin, history as
-- typed events, a spool's plastic as the sum of its movements, opening hours by weekday.
drop trigger ticket_event_is_append_only;
drop trigger ticket_event_stays;
drop index ticket_event_ticket;
drop index one_run_per_printer;
drop index one_run_per_ticket;
drop index run_started;
drop index run_ticket;
drop index run_photo;
drop index model_revision;
drop index model_file;
drop index model_hand_over;
drop index ticket_member;
drop index sliced_file_ticket;
drop index sliced_file_file;
drop index sliced_file_token;
drop index account_name;
alter table lab rename to old_lab;
alter table member rename to old_member;
alter table account rename to old_account;
alter table nozzle rename to old_nozzle;
alter table material rename to old_material;
alter table printer rename to old_printer;
alter table keep_out rename to old_keep_out;
alter table printer_material rename to old_printer_material;
alter table badge rename to old_badge;
alter table spool rename to old_spool;
alter table hand_over rename to old_hand_over;
alter table model rename to old_model;
alter table ticket rename to old_ticket;
alter table ticket_event rename to old_ticket_event;
alter table run rename to old_run;
alter table run_defect rename to old_run_defect;
alter table sliced_file rename to old_sliced_file;
alter table inspection rename to old_inspection;
alter table form_token rename to old_form_token;
alter table secret rename to old_secret;

-- Coins of a currency to its unit, as ISO 4217 has them.
create temp table coins as select case
        when currency in ('BIF', 'CLP', 'DJF', 'GNF', 'ISK', 'JPY', 'KMF', 'KRW', 'PYG', 'RWF', 'UGX', 'UYI', 'VND', 'VUV', 'XAF', 'XOF', 'XPF') then 1
        when currency in ('BHD', 'IQD', 'JOD', 'KWD', 'LYD', 'OMR', 'TND') then 1000
        else 100 end as per_unit from old_lab;

create table lab (
    id                 integer primary key check (id = 1),
    name               text not null,
    currency           text not null check (length(currency) = 3),
    zone               text,
    limit_mb           integer not null check (limit_mb > 0),
    tariff             text check (tariff is null or json_valid(tariff)),
    policy             text check (policy is null or json_valid(policy)),
    keep_models_days   integer not null default 0 check (keep_models_days >= 0),
    keep_photos_days   integer not null default 0 check (keep_photos_days >= 0),
    keep_members_days  integer not null default 0 check (keep_members_days >= 0)
) strict;
insert into lab select id, name, currency, null, limit_mb, json_remove(tariff, '$.wattsHeating', '$.wattsPrinting'), null,
        keep_models_days, keep_photos_days, keep_members_days from old_lab;

-- Minutes of the day between which somebody is there; 1 is Monday.
create table opening (
    weekday   integer not null check (weekday between 1 and 7),
    from_min  integer not null check (from_min >= 0),
    to_min    integer not null check (to_min > from_min and to_min <= 1440),
    primary key (weekday, from_min)
) strict, without rowid;
insert into opening select weekday.value, substr(opens, 1, 2) * 60 + substr(opens, 4, 2), substr(closes, 1, 2) * 60 + substr(closes, 4, 2)
    from old_lab, json_each('[1, 2, 3, 4, 5, 6, 7]') weekday where opens < closes;

-- Days that are not like others; one without openings of its own is closed.
create table special_day (
    day   text primary key check (day = date(day)),
    note  text not null default ''
) strict, without rowid;
create table special_opening (
    day       text not null references special_day(day) on delete cascade,
    from_min  integer not null check (from_min >= 0),
    to_min    integer not null check (to_min > from_min and to_min <= 1440),
    primary key (day, from_min)
) strict, without rowid;

create table member (
    id            integer primary key,
    name          text not null check (length(trim(name)) > 0),
    minor         integer not null default 0 check (minor in (0, 1)),
    grown_up      text not null default '',
    note          text not null default '',
    class         text not null default '',
    since         integer not null,
    forgotten_at  integer
) strict;
insert into member select id, name, minor <> 0, grown_up, note, class,
        coalesce(cast(round((julianday(since) - 2440587.5) * 86400000) as integer), 0),
        cast(round((julianday(forgotten_at) - 2440587.5) * 86400000) as integer) from old_member;
create index member_name on member(name collate nocase) where forgotten_at is null;

create table account (
    id          integer primary key,
    username    text not null,
    password    text not null,
    role        text not null check (role in ('COORDINATOR', 'HELPER', 'MEMBER')),
    name        text not null,
    member_id   integer references member(id),
    closed      integer not null default 0 check (closed in (0, 1)),
    code        text,
    code_until  integer
) strict;
insert into account select id, username, password, role, name, member_id, closed <> 0, code,
        cast(round((julianday(code_until) - 2440587.5) * 86400000) as integer) from old_account;
create unique index account_name on account(username collate nocase);
create index account_member on account(member_id) where member_id is not null;

create table nozzle (
    id            integer primary key,
    bore_mm       real not null check (bore_mm > 0),
    hardened      integer not null check (hardened in (0, 1)),
    fitting       text not null default '',
    note          text not null default '',
    hours_before  real not null default 0 check (hours_before >= 0)
) strict;
insert into nozzle (id, bore_mm, hardened, note) select id, bore_mm, hardened <> 0, note from old_nozzle;
-- A nozzle is a thing that sits in one printer; those that were named by several become as many.
create temp table mounted as
    select printer_id, nozzle_id as was, case when nth = 1 then nozzle_id
        else (select max(id) from old_nozzle) + row_number() over (partition by nth > 1 order by printer_id) end as nozzle_id
    from (select id as printer_id, nozzle_id, row_number() over (partition by nozzle_id order by id) as nth from old_printer);
insert into nozzle (id, bore_mm, hardened, note)
    select m.nozzle_id, n.bore_mm, n.hardened <> 0, n.note from mounted m join old_nozzle n on n.id = m.was where m.nozzle_id <> m.was;

create table material (
    id             text primary key,
    name           text not null,
    density_g_cm3  real not null check (density_g_cm3 > 0),
    nozzle_c       integer not null,
    bed_c          integer not null,
    abrasive       integer not null check (abrasive in (0, 1)),
    enclosed       integer not null check (enclosed in (0, 1))
) strict, without rowid;
insert into material select id, name, density_g_cm3, nozzle_c, bed_c, abrasive <> 0, enclosed <> 0 from old_material;

create table printer (
    id                 text primary key,
    name               text not null,
    place              text not null default '',
    nozzle_id          integer not null unique references nozzle(id),
    fitting            text not null default '',
    used_by            text not null default 'TRAINED' check (used_by in ('EVERYBODY', 'TRAINED', 'STAFF')),
    unattended         integer not null default 0 check (unattended in (0, 1)),
    state              text not null default 'READY' check (state in ('READY', 'DOWN')),
    state_reason       text not null default '',
    down_until         integer,
    hours_before       real not null default 0 check (hours_before >= 0),
    watts_heating      real not null check (watts_heating >= 0),
    watts_printing     real not null check (watts_printing >= 0),
    per_hour_minor     integer check (per_hour_minor >= 0),
    width_mm           real not null,
    depth_mm           real not null,
    height_mm          real not null,
    max_speed          real not null,
    acceleration       real not null,
    corner_speed       real not null,
    z_speed            real not null,
    max_flow           real not null,
    retraction_mm      real not null,
    retraction_speed   real not null,
    bed_c_per_s        real not null,
    nozzle_c_per_s     real not null,
    homing_s           real not null,
    levelling_s        real not null,
    flow_s             real not null,
    purge_s            real not null,
    purge_mm3          real not null,
    picture_s          real not null,
    change_s           real not null,
    end_s              real not null,
    filament_mm        real not null,
    enclosed           integer not null check (enclosed in (0, 1)),
    max_nozzle_c       integer not null,
    max_bed_c          integer not null,
    narrowest_gap_mm   real not null,
    longest_bridge_mm  real not null,
    raft_always        integer not null check (raft_always in (0, 1)),
    own_start          text not null,
    own_end            text not null,
    board              text not null
) strict, without rowid;
insert into printer select p.id, p.name, '', m.nozzle_id, '', 'TRAINED', 0, case when out_of_order then 'DOWN' else 'READY' end, '', null, 0,
        coalesce((select json_extract(tariff, '$.wattsHeating') from old_lab), 250),
        coalesce((select json_extract(tariff, '$.wattsPrinting') from old_lab), 100), null,
        width_mm, depth_mm, height_mm, max_speed, acceleration, corner_speed, z_speed, max_flow, retraction_mm, retraction_speed,
        bed_c_per_s, nozzle_c_per_s, homing_s, levelling_s, flow_s, purge_s, purge_mm3, picture_s, change_s, end_s, filament_mm,
        enclosed <> 0, max_nozzle_c, max_bed_c, narrowest_gap_mm, longest_bridge_mm, raft_always <> 0, own_start, own_end, board
    from old_printer p join mounted m on m.printer_id = p.id;

create table keep_out (
    printer_id  text not null references printer(id) on delete cascade,
    min_x       real not null,
    min_y       real not null,
    max_x       real not null check (max_x > min_x),
    max_y       real not null check (max_y > min_y)
) strict;
insert into keep_out select printer_id, min_x, min_y, max_x, max_y from old_keep_out;
create index keep_out_printer on keep_out(printer_id);

create table printer_material (
    printer_id   text not null references printer(id) on delete cascade,
    material_id  text not null references material(id),
    primary key (printer_id, material_id)
) strict, without rowid;
insert into printer_material select printer_id, material_id from old_printer_material;

create table badge (
    member_id   integer not null references member(id),
    printer_id  text not null references printer(id) on delete cascade,
    primary key (member_id, printer_id)
) strict, without rowid;
insert into badge select member_id, printer_id from old_badge;

-- What is to be done on a printer again and again, by its hours, by the calendar, or by whichever comes first.
create table maintenance_task (
    id           integer primary key,
    printer_id   text not null references printer(id) on delete cascade,
    what         text not null,
    every_hours  real check (every_hours > 0),
    every_days   integer check (every_days > 0),
    since        integer not null,
    since_hours  real not null,
    check (every_hours is not null or every_days is not null)
) strict;
create index maintenance_task_printer on maintenance_task(printer_id);
create table maintenance_done (
    task_id     integer not null references maintenance_task(id) on delete cascade,
    at          integer not null,
    by_account  integer references account(id),
    hours       real not null,
    primary key (task_id, at)
) strict, without rowid;

create table spool (
    id                  integer primary key,
    number              integer not null unique check (number > 0),
    material_id         text not null references material(id),
    colour              text not null,
    place               text not null default '',
    net_g               real not null check (net_g > 0),
    tare_g              real check (tare_g >= 0),
    diameter_mm         real not null default 1.75 check (diameter_mm > 0),
    lot                 text not null default '',
    price_per_kg_minor  integer not null check (price_per_kg_minor >= 0),
    opened_on           text check (opened_on = date(opened_on)),
    dried_on            text check (dried_on = date(dried_on)),
    loaded_in           text unique references printer(id),
    retired             integer not null default 0 check (retired in (0, 1))
) strict;
insert into spool (id, number, material_id, colour, net_g, price_per_kg_minor, opened_on, retired)
    select id, id, material_id, colour, initial_g, cast(round(price_per_kg * (select per_unit from coins)) as integer),
        date(opened_on), retired <> 0 from old_spool;

create table hand_over (
    id          integer primary key,
    name        text not null,
    token       text not null unique,
    created_at  integer not null
) strict;
insert into hand_over select id, name, token, cast(round((julianday(created_at) - 2440587.5) * 86400000) as integer) from old_hand_over;

create table model (
    id             integer primary key,
    hand_over_id   integer not null references hand_over(id),
    name           text not null,
    sha256         text,
    bytes          integer not null,
    format         text not null,
    problem        text,
    declared_unit  text not null,
    revision_of    integer references model(id),
    made_by        text not null default ''
) strict;
insert into model select id, hand_over_id, name, sha256, bytes, format, problem, declared_unit, null, made_by from old_model;
update model set revision_of = (select revision_of from old_model o where o.id = model.id);
create index model_file on model(sha256) where sha256 is not null;
create index model_hand_over on model(hand_over_id);
create index model_revision on model(revision_of) where revision_of is not null;

-- How something is printed, and on what. A plan is never changed; forms, files, layers, quotes and plates name it by its number.
create table plan (
    id              integer primary key,
    starting_point  text not null,
    recipe          text not null check (json_valid(recipe)),
    printer_id      text not null references printer(id),
    spool_id        integer references spool(id),
    fresh           integer not null check (fresh in (0, 1)),
    made_at         integer not null
) strict;
create unique index plan_values on plan(recipe, printer_id, coalesce(spool_id, 0), starting_point, fresh);
-- Recipes from before supports, paces and finer choices were named get the usual ones.
create temp table recipes as select recipe as was, case
        when json_extract(recipe, '$.supports') is null or json_extract(recipe, '$.pace') is null or json_extract(recipe, '$.lines') is null
        then json_set(recipe,
            '$.supports', coalesce(json_extract(recipe, '$.supports'), json('{"where":"NONE","angleDeg":45.0,"density":0.15,"gapMm":0.2,"faceLayers":2}')),
            '$.pace', coalesce(json_extract(recipe, '$.pace'), json_object('outerWallMmS', max(1.0, 0.6 * json_extract(recipe, '$.speedMmS')),
                'solidMmS', max(1.0, 0.8 * json_extract(recipe, '$.speedMmS')), 'firstLayerMmS', max(1.0, 0.5 * json_extract(recipe, '$.speedMmS')),
                'travelMmS', 2000.0, 'outerAcceleration', 1.0, 'minimumLayerS', 5.0, 'slowestMmS', 10.0)),
            '$.lines', coalesce(json_extract(recipe, '$.lines'), json('{"seam":"NEAREST","outerFirst":false,"spiral":false,"thinLines":true,'
                || '"infillAngleDeg":0.0,"infillLines":1,"infillWidth":1.0,"overlap":0.1,"variableLayers":false,"changesMm":[],"towerMm3":0.0,"zones":[]}')))
        else recipe end as now
    from (select recipe from old_ticket where recipe is not null union select recipe from old_run);
insert into plan (starting_point, recipe, printer_id, spool_id, fresh, made_at)
    select starting_point, now, printer_id, spool_id, fresh, min(made_at) from (
        select t.starting_point, r.now, t.printer_id, t.spool_id, t.fresh, coalesce(cast(round((julianday(t.queued_at) - 2440587.5) * 86400000) as integer), 0) as made_at
            from old_ticket t join recipes r on r.was = t.recipe where t.printer_id is not null and t.spool_id is not null
        union all
        select t.starting_point, r.now, n.printer_id, n.spool_id, 0, cast(round((julianday(n.started_at) - 2440587.5) * 86400000) as integer)
            from old_run n join old_ticket t on t.id = n.ticket_id join recipes r on r.was = n.recipe)
    group by starting_point, now, printer_id, spool_id, fresh;

create table ticket (
    id              integer primary key,
    model_id        integer not null unique references model(id),
    state           text not null check (state in
        ('NEW', 'SENT_BACK', 'DECLINED', 'WITHDRAWN', 'ACCEPTED', 'QUEUED', 'RUNNING', 'FAILED', 'PRINTED', 'HANDED_OUT')),
    member_id       integer references member(id),
    purpose         text check (purpose in ('DISPLAY', 'EVERYDAY', 'LOAD_BEARING', 'SMALL_CHILD', 'PROTOTYPE')),
    needed_by       integer,
    material_wish   text not null default '',
    colour_wish     text not null default '',
    quantity        integer not null default 1 check (quantity between 1 and 1000),
    source          text not null default '',
    designer_notes  text not null default '',
    unit            text not null,
    scale_percent   real not null default 100 check (scale_percent > 0),
    rotation        text not null default '{"w":1.0,"x":0.0,"y":0.0,"z":0.0}' check (json_valid(rotation)),
    plan_id         integer references plan(id),
    created_at      integer not null
) strict;
insert into ticket select id, model_id, state, member_id, purpose, cast(round((julianday(needed_by) - 2440587.5) * 86400000) as integer),
        material_wish, colour_wish, quantity, source, designer_notes, unit, scale_percent, rotation,
        (select p.id from plan p join recipes r on r.now = p.recipe where r.was = t.recipe and p.printer_id = t.printer_id
            and p.spool_id = t.spool_id and p.starting_point = t.starting_point and p.fresh = t.fresh), cast(round((julianday(created_at) - 2440587.5) * 86400000) as integer)
    from old_ticket t;
-- Withdrawn was told from declined by the history alone.
update ticket set state = 'WITHDRAWN' where state = 'DECLINED' and (select what from old_ticket_event e where e.ticket_id = ticket.id
    and e.what in ('declined', 'withdrawn') order by e.id desc limit 1) = 'withdrawn';
create index ticket_state on ticket(state);
create index ticket_member on ticket(member_id) where member_id is not null;
create index ticket_source on ticket(lower(trim(source))) where source <> '';

-- What lies on one bed in one run.
create table plate (
    id         integer primary key,
    plan_id    integer not null references plan(id),
    sequence   text not null check (sequence in ('TOGETHER', 'ONE_BY_ONE')),
    state      text not null check (state in ('DRAFT', 'QUEUED', 'RUNNING', 'ENDED', 'DISSOLVED')),
    place      real not null,
    made_at    integer not null,
    queued_at  integer,
    file_hash  text,
    check (state <> 'QUEUED' or queued_at is not null)
) strict;
create index plate_state on plate(state) where state in ('DRAFT', 'QUEUED', 'RUNNING');
create table plate_copy (
    id         integer primary key,
    plate_id   integer not null references plate(id),
    ticket_id  integer not null references ticket(id),
    nth        integer not null check (nth > 0),
    part       text not null check (json_valid(part)),
    x_mm       real not null,
    y_mm       real not null,
    turn_deg   real not null
) strict;
create index plate_copy_plate on plate_copy(plate_id, nth);
create index plate_copy_ticket on plate_copy(ticket_id);

-- What a plate takes on its printer, as it was worked out: raw, by phase, with the version of the core that did.
create table promise (
    id            integer primary key,
    plate_id      integer not null references plate(id),
    printer_id    text not null references printer(id),
    phases        text not null check (json_valid(phases)),
    portions      text not null check (json_valid(portions)),
    prepare_s     real not null,
    total_s       real not null,
    earliest_s    real not null,
    latest_s      real not null,
    grams         real not null,
    purged_g      real not null,
    core_version  text not null,
    made_at       integer not null
) strict;
create index promise_plate on promise(plate_id);

-- One attempt at a plate. The hash is of the file that was handed out for it, if any was.
create table run (
    id             integer primary key,
    plate_id       integer not null references plate(id),
    promise_id     integer not null references promise(id),
    printer_id     text not null references printer(id),
    spool_id       integer not null references spool(id),
    nozzle_id      integer references nozzle(id),
    core_version   text not null,
    file_hash      text,
    state          text not null check (state in ('RUNNING', 'DONE', 'FAILED')),
    started_at     integer not null,
    started_by     integer references account(id),
    ended_at       integer,
    real_minutes   real,
    real_g         real,
    cost_minor     integer,
    cost_currency  text check (length(cost_currency) = 3),
    cause          text not null default '',
    note           text not null default '',
    photo_sha256   text,
    photo_type     text,
    check ((state = 'RUNNING') = (ended_at is null)),
    check ((cost_minor is null) = (cost_currency is null))
) strict;
-- How each copy ended, and what of the run's plastic, time and money is its share.
create table run_copy (
    run_id      integer not null references run(id),
    copy_id     integer not null references plate_copy(id),
    ticket_id   integer not null references ticket(id),
    outcome     text not null check (outcome in ('WELL', 'USABLE', 'FAILED', 'CANCELLED')),
    reason      text not null default '',
    milligrams  integer not null,
    seconds     integer not null,
    cost_minor  integer not null,
    primary key (run_id, copy_id)
) strict;
create index run_copy_ticket on run_copy(ticket_id, outcome);

-- So far a run was one copy of one ticket: it becomes a plate with that copy in the middle of the bed.
create temp table part as select t.id as ticket_id, json_object('sha256', coalesce(m.sha256, ''), 'factor',
        case t.unit when 'mm' then 1.0 when 'cm' then 10.0 when 'm' then 1000.0 when 'in' then 25.4
            when 'ft' then 304.8 when 'µm' then 0.001 end * t.scale_percent / 100, 'rotation', json(t.rotation)) as part
    from old_ticket t join old_model m on m.id = t.model_id;
insert into plate (id, plan_id, sequence, state, place, made_at, queued_at)
    select r.id, p.id, 'TOGETHER', case r.state when 'RUNNING' then 'RUNNING' else 'ENDED' end, r.id, cast(round((julianday(r.started_at) - 2440587.5) * 86400000) as integer), cast(round((julianday(r.started_at) - 2440587.5) * 86400000) as integer)
    from old_run r join old_ticket t on t.id = r.ticket_id join recipes c on c.was = r.recipe
    join plan p on p.recipe = c.now and p.printer_id = r.printer_id and p.spool_id = r.spool_id and p.starting_point = t.starting_point
        and p.fresh = 0;
insert into plate_copy select r.id, r.id, r.ticket_id, 1, x.part, b.width_mm / 2, b.depth_mm / 2, 0
    from old_run r join part x on x.ticket_id = r.ticket_id join printer b on b.id = r.printer_id;
insert into promise select r.id, r.id, r.printer_id, '{}', '{"plastic":[1.0],"seconds":[1.0]}', prepare_s, promised_s, prepare_s + 0.95 * (promised_s - prepare_s),
        prepare_s + 1.2 * (promised_s - prepare_s), promised_g, 0, core_version, cast(round((julianday(r.started_at) - 2440587.5) * 86400000) as integer) from old_run r;
insert into run select id, id, id, printer_id, spool_id, null, core_version, null, state, cast(round((julianday(started_at) - 2440587.5) * 86400000) as integer),
        (select id from old_account a where a.username = started_by collate nocase), cast(round((julianday(ended_at) - 2440587.5) * 86400000) as integer), real_minutes, real_g,
        cast(replace(substr(cost, 1, instr(cost, ' ') - 1), '.', '') as integer), substr(cost, instr(cost, ' ') + 1),
        cause, note, photo_sha256, photo_type from old_run;
insert into run_copy select o.id, o.id, o.ticket_id, case o.state when 'FAILED' then 'FAILED' else 'WELL' end, '',
        cast(round(o.real_g * 1000) as integer), cast(round(o.real_minutes * 60) as integer), r.cost_minor
    from old_run o join run r on r.id = o.id where o.state <> 'RUNNING';
-- What waits, a copy a plate.
create temp table waiting as with recursive copies(ticket_id, n) as (
        select id, 1 from old_ticket where state in ('QUEUED', 'RUNNING')
        union all select ticket_id, n + 1 from copies where n < 1000)
    select row_number() over (order by t.queued_at, t.id, c.n) + coalesce((select max(id) from old_run), 0) as id, t.id as ticket_id, t.printer_id, t.promised_s, t.promised_g, t.queued_at
    from copies c join old_ticket t on t.id = c.ticket_id
    where c.n <= t.quantity - (select count(*) from old_run r where r.ticket_id = t.id and r.state in ('DONE', 'RUNNING'));
insert into plate (id, plan_id, sequence, state, place, made_at, queued_at)
    select w.id, t.plan_id, 'TOGETHER', 'QUEUED', w.id, cast(round((julianday(w.queued_at) - 2440587.5) * 86400000) as integer), cast(round((julianday(w.queued_at) - 2440587.5) * 86400000) as integer) from waiting w join ticket t on t.id = w.ticket_id;
insert into plate_copy select w.id, w.id, w.ticket_id, 1, x.part, b.width_mm / 2, b.depth_mm / 2, 0
    from waiting w join part x on x.ticket_id = w.ticket_id join printer b on b.id = w.printer_id;
insert into promise select w.id, w.id, printer_id, '{}', '{"plastic":[1.0],"seconds":[1.0]}', 0, promised_s, 0.95 * promised_s, 1.2 * promised_s, promised_g, 0, 'earlier',
        cast(round((julianday(queued_at) - 2440587.5) * 86400000) as integer) from waiting w;
create unique index one_run_per_printer on run(printer_id) where state = 'RUNNING';
create unique index one_run_per_spool on run(spool_id) where state = 'RUNNING';
create unique index one_run_at_a_time on run(plate_id) where state = 'RUNNING';
create index run_started on run(started_at);
create index run_plate on run(plate_id);
create index run_printer on run(printer_id, started_at);
create index run_nozzle on run(nozzle_id, real_minutes) where nozzle_id is not null;
create index run_hours on run(printer_id, real_minutes);
create index run_photo on run(photo_sha256) where photo_sha256 is not null;

create table run_defect (
    run_id  integer not null references run(id),
    code    text not null,
    primary key (run_id, code)
) strict, without rowid;
insert into run_defect select run_id, code from old_run_defect;

-- What came to a spool and went from it, in thousandths of a gram; their sum is what it holds.
create table spool_movement (
    id          integer primary key,
    spool_id    integer not null references spool(id),
    at          integer not null,
    by_account  integer references account(id),
    kind        text not null check (kind in ('ADDED', 'USED', 'FAILED', 'PURGED', 'WEIGHED', 'CORRECTED')),
    milligrams  integer not null,
    run_id      integer references run(id),
    reason      text not null default ''
) strict;
create index spool_movement_spool on spool_movement(spool_id, milligrams);
create index spool_movement_run on spool_movement(run_id) where run_id is not null;
insert into spool_movement (spool_id, at, kind, milligrams)
    select id, coalesce(cast(round((julianday(opened_on) - 2440587.5) * 86400000) as integer), (select min(started_at) from run), cast(round((julianday() - 2440587.5) * 86400000) as integer)), 'ADDED',
        cast(round(initial_g * 1000) as integer) from old_spool;
insert into spool_movement (spool_id, at, by_account, kind, milligrams, run_id)
    select spool_id, ended_at, started_by, case state when 'FAILED' then 'FAILED' else 'USED' end,
        -cast(round(real_g * 1000) as integer), id from run where state <> 'RUNNING' order by ended_at, id;
insert into spool_movement (spool_id, at, kind, milligrams, reason)
    select s.id, cast(round((julianday() - 2440587.5) * 86400000) as integer), 'CORRECTED', cast(round(s.remaining_g * 1000) as integer) - m.sum, 'as it was written down before'
    from old_spool s join (select spool_id, sum(milligrams) as sum from spool_movement group by spool_id) m on m.spool_id = s.id
    where cast(round(s.remaining_g * 1000) as integer) <> m.sum;
create trigger spool_movement_is_append_only before update of spool_id, at, by_account, kind, milligrams, run_id on spool_movement
begin select raise(abort, 'movements are append-only'); end;

create table sliced_file (
    id         integer primary key,
    ticket_id  integer references ticket(id),
    name       text not null,
    sha256     text not null,
    bytes      integer not null,
    taken_at   integer not null,
    token      text
) strict;
insert into sliced_file select id, ticket_id, name, sha256, bytes, cast(round((julianday(taken_at) - 2440587.5) * 86400000) as integer), token
    from old_sliced_file;
create index sliced_file_ticket on sliced_file(ticket_id);
create index sliced_file_file on sliced_file(sha256);
create unique index sliced_file_token on sliced_file(token);

create table inspection (
    lying         text primary key,
    core_version  text not null,
    measures      text not null
) strict;
insert into inspection select lying, core_version, measures from old_inspection;

create table form_token (
    token    text primary key,
    sent_at  integer not null
) strict, without rowid;
insert into form_token select token, cast(round((julianday(sent_at) - 2440587.5) * 86400000) as integer) from old_form_token;

create table secret (
    id     integer primary key check (id = 1),
    value  text not null
) strict;
insert into secret select id, value from old_secret;

-- History: who, when, what happened to what, with its values. It is never changed. People are named by number; what they wrote
-- with it stands beside it, so that somebody can be forgotten.
create table event (
    id          integer primary key,
    at          integer not null,
    by_account  integer references account(id),
    kind        text not null,
    ticket_id   integer references ticket(id),
    run_id      integer references run(id),
    plate_id    integer references plate(id),
    spool_id    integer,
    nozzle_id   integer,
    printer_id  text,
    member_id   integer,
    account_id  integer,
    facts       text not null check (json_valid(facts))
) strict;
create table remark (
    event_id  integer primary key references event(id),
    text      text not null
) strict;
-- What somebody outside is to be told of, until it is delivered.
create table outbox (
    event_id      integer primary key references event(id),
    delivered_at  integer
) strict;
create index outbox_waiting on outbox(event_id) where delivered_at is null;
insert into event (id, at, by_account, kind, ticket_id, facts)
    select id, cast(round((julianday(at) - 2440587.5) * 86400000) as integer), (select id from account a where a.username = who collate nocase),
        case what when 'handed over' then 'handed-over' when 'accepted' then 'accepted' when 'sent back' then 'sent-back'
            when 'declined' then 'declined' when 'withdrawn' then 'withdrawn' when 'taken in again' then 'reopened'
            when 'handed out' then 'handed-out' when 'turned to lie another way' then 'turned' else 'earlier' end,
        ticket_id, case when what in ('handed over', 'accepted', 'sent back', 'declined', 'withdrawn', 'taken in again', 'handed out',
            'turned to lie another way') then '{}' else json_object('what', what) end
    from old_ticket_event order by id;
insert into remark select id, why from old_ticket_event where why <> '';
create index event_ticket on event(ticket_id, at) where ticket_id is not null;
create index event_plate on event(plate_id) where plate_id is not null;
create index event_spool on event(spool_id) where spool_id is not null;
create index event_printer on event(printer_id) where printer_id is not null;
create index event_account on event(by_account) where by_account is not null;
create trigger event_is_append_only before update on event begin select raise(abort, 'history is append-only'); end;
create trigger event_stays before delete on event begin select raise(abort, 'history is append-only'); end;
create trigger remark_stays before delete on remark begin select raise(abort, 'history is append-only'); end;

drop table old_run_defect;
drop table old_run;
drop table old_sliced_file;
drop table forgetting;
drop table old_ticket_event;
drop table old_ticket;
drop table old_model;
drop table old_hand_over;
drop table old_spool;
drop table old_badge;
drop table old_printer_material;
drop table old_keep_out;
drop table old_printer;
drop table old_nozzle;
drop table old_material;
drop table old_account;
drop table old_member;
drop table old_lab;
drop table old_inspection;
drop table old_form_token;
drop table old_secret;
drop table temp.coins;
drop table temp.mounted;
drop table temp.recipes;
drop table temp.part;
drop table temp.waiting;
