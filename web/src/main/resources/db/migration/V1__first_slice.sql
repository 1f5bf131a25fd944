create table lab (
    id        integer primary key check (id = 1),
    name      text not null,
    currency  text not null,
    limit_mb  integer not null check (limit_mb > 0),
    opens     text not null,
    closes    text not null
);

create table member (
    id        integer primary key,
    name      text not null check (length(trim(name)) > 0),
    minor     integer not null default 0,
    grown_up  text not null default '',
    note      text not null default ''
);

create table account (
    id        integer primary key,
    username  text not null unique,
    password  text not null,
    role      text not null check (role in ('COORDINATOR', 'HELPER', 'MEMBER')),
    name      text not null,
    member_id integer references member(id)
);

create table nozzle (
    id        integer primary key,
    bore_mm   real not null,
    hardened  integer not null,
    note      text not null default ''
);

create table material (
    id              text primary key,
    name            text not null,
    density_g_cm3   real not null,
    nozzle_c        integer not null,
    bed_c           integer not null,
    abrasive        integer not null,
    enclosed        integer not null
);

create table printer (
    id                  text primary key,
    name                text not null,
    nozzle_id           integer not null references nozzle(id),
    width_mm            real not null,
    depth_mm            real not null,
    height_mm           real not null,
    max_speed           real not null,
    acceleration        real not null,
    corner_speed        real not null,
    z_speed             real not null,
    max_flow            real not null,
    retraction_mm       real not null,
    retraction_speed    real not null,
    bed_c_per_s         real not null,
    nozzle_c_per_s      real not null,
    homing_s            real not null,
    levelling_s         real not null,
    purge_s             real not null,
    purge_mm3           real not null,
    filament_mm         real not null,
    enclosed            integer not null,
    max_nozzle_c        integer not null,
    max_bed_c           integer not null,
    out_of_order        integer not null default 0
);

create table keep_out (
    printer_id text not null references printer(id) on delete cascade,
    min_x real not null, min_y real not null, max_x real not null, max_y real not null
);

create table printer_material (
    printer_id  text not null references printer(id) on delete cascade,
    material_id text not null references material(id),
    primary key (printer_id, material_id)
);

create table badge (
    member_id   integer not null references member(id),
    printer_id  text not null references printer(id) on delete cascade,
    primary key (member_id, printer_id)
);

create table spool (
    id            integer primary key,
    material_id   text not null references material(id),
    colour        text not null,
    initial_g     real not null,
    remaining_g   real not null,
    price_per_kg  real not null,
    opened_on     text,
    retired       integer not null default 0
);

create table hand_over (
    id          integer primary key,
    name        text not null,
    token       text not null unique,
    created_at  text not null
);

create table model (
    id            integer primary key,
    hand_over_id  integer not null references hand_over(id),
    name          text not null,
    sha256        text not null,
    bytes         integer not null,
    format        text not null,
    problem       text,
    inspection    text,
    core_version  text not null
);

create table ticket (
    id               integer primary key,
    model_id         integer not null unique references model(id),
    state            text not null,
    member_id        integer references member(id),
    purpose          text,
    needed_by        text,
    material_wish    text not null default '',
    colour_wish      text not null default '',
    quantity         integer not null default 1 check (quantity between 1 and 1000),
    source           text not null default '',
    designer_notes   text not null default '',
    unit             text not null default 'mm',
    scale_percent    real not null default 100,
    printer_id       text references printer(id),
    spool_id         integer references spool(id),
    starting_point   text not null default 'daily-bread',
    recipe           text,
    promised_s       real,
    promised_g       real,
    queued_at        text,
    created_at       text not null
);

create table ticket_event (
    id         integer primary key,
    ticket_id  integer not null references ticket(id),
    at         text not null,
    who        text not null,
    what       text not null,
    why        text not null default ''
);
create index ticket_event_ticket on ticket_event(ticket_id);
create trigger ticket_event_is_append_only before update on ticket_event
begin select raise(abort, 'history is append-only'); end;
create trigger ticket_event_stays before delete on ticket_event
begin select raise(abort, 'history is append-only'); end;

create table run (
    id              integer primary key,
    ticket_id       integer not null references ticket(id),
    printer_id      text not null references printer(id),
    spool_id        integer not null references spool(id),
    recipe          text not null,
    promised_s      real not null,
    prepare_s       real not null,
    promised_g      real not null,
    core_version    text not null,
    state           text not null check (state in ('RUNNING', 'DONE', 'FAILED')),
    started_at      text not null,
    started_by      text not null,
    ended_at        text,
    real_minutes    real,
    real_g          real,
    cost            text,
    cause           text not null default '',
    note            text not null default '',
    photo_sha256    text,
    photo_type      text
);
create unique index one_run_per_printer on run(printer_id) where state = 'RUNNING';
create unique index one_run_per_ticket on run(ticket_id) where state = 'RUNNING';
create index run_started on run(started_at);

create table run_defect (
    run_id  integer not null references run(id),
    code    text not null,
    primary key (run_id, code)
);
