-- Printers like the door bench until there are fifty, each with a full spool of its own, and plates like the first that waits for
-- the door bench until a thousand wait, spread over all of those.
create temp table bench as with recursive n(i) as (select 1 union all select i + 1 from n where i < 50 - (select count(*) from printer)) select i, 'bench-' || i as id from n;
create temp table crowd as with recursive n(i) as (select 1 union all select i + 1 from n where i < 1000 - (select count(*) from plate where state = 'QUEUED'))
    select i, 1 + i % (select count(*) from bench) as bench from n;
create temp table was as
    select p.id as plate, p.plan_id as plan, c.ticket_id as ticket, t.model_id as model, n.spool_id as spool from plate p join plan n on n.id = p.plan_id
    join plate_copy c on c.plate_id = p.id join ticket t on t.id = c.ticket_id where p.state = 'QUEUED' and n.printer_id = 'door' order by p.id limit 1;

insert into nozzle (id, bore_mm, hardened) select 10000 + i, 0.4, 0 from bench;
insert into printer select b.id, 'Bench ' || b.i, 'hall', 10000 + b.i, fitting, used_by, unattended, state, state_reason, down_until, hours_before, watts_heating, watts_printing,
    per_hour_minor, width_mm, depth_mm, height_mm, max_speed, acceleration, corner_speed, z_speed, max_flow, retraction_mm, retraction_speed, bed_c_per_s, nozzle_c_per_s,
    homing_s, levelling_s, flow_s, purge_s, purge_mm3, picture_s, change_s, end_s, filament_mm, enclosed, max_nozzle_c, max_bed_c, narrowest_gap_mm, longest_bridge_mm,
    raft_always, own_start, own_end, board, unproved from printer p, bench b where p.id = 'door';
insert into printer_material select b.id, m.material_id from bench b, printer_material m where m.printer_id = 'door';
insert into spool (id, number, material_id, colour, net_g, tare_g, price_per_kg_minor, loaded_in)
    select 10000 + b.i, 10000 + b.i, s.material_id, s.colour, 50000, 250, s.price_per_kg_minor, b.id from spool s, bench b, was where s.id = was.spool;
insert into spool_movement (spool_id, at, kind, milligrams) select 10000 + i, 0, 'ADDED', 50000000 from bench;
insert into plan (id, starting_point, recipe, printer_id, spool_id, fresh, made_at)
    select 10000 + b.i, n.starting_point, n.recipe, b.id, 10000 + b.i, n.fresh, n.made_at from plan n, bench b, was where n.id = was.plan;
insert into model (id, hand_over_id, name, sha256, bytes, format, declared_unit) select 10000 + c.i, m.hand_over_id, m.name, m.sha256, m.bytes, m.format, m.declared_unit
    from model m, crowd c, was where m.id = was.model;
insert into ticket (id, model_id, state, member_id, purpose, needed_by, quantity, unit, scale_percent, rotation, plan_id, created_at, collect_code)
    select 10000 + c.i, 10000 + c.i, 'QUEUED', (select min(m.id) from member m where m.id % 6 = c.i % 6), t.purpose, t.needed_by + c.i * 3600000, 1, t.unit, t.scale_percent, t.rotation, 10000 + c.bench, t.created_at,
    'XX' || c.i from ticket t, crowd c, was where t.id = was.ticket;
insert into plate (id, plan_id, sequence, state, place, made_at, queued_at) select 10000 + c.i, 10000 + c.bench, p.sequence, 'QUEUED', 10000 + c.i, p.made_at, p.queued_at
    from plate p, crowd c, was where p.id = was.plate;
insert into plate_copy (plate_id, ticket_id, nth, part, x_mm, y_mm, turn_deg) select 10000 + c.i, 10000 + c.i, 1, k.part, k.x_mm, k.y_mm, k.turn_deg
    from plate_copy k, crowd c, was where k.plate_id = was.plate;
insert into promise (plate_id, printer_id, phases, portions, prepare_s, total_s, earliest_s, latest_s, grams, least_g, most_g, purged_g, core_version, runs, raw_phases, raw_s, raw_g,
        made_at)
    select 10000 + c.i, 'bench-' || c.bench, r.phases, r.portions, r.prepare_s, r.total_s, r.earliest_s, r.latest_s, r.grams, r.least_g, r.most_g, r.purged_g, r.core_version,
        r.runs, r.raw_phases, r.raw_s, r.raw_g, r.made_at
    from promise r, crowd c, was where r.id = (select max(id) from promise where plate_id = was.plate);
drop table was;
drop table crowd;
drop table bench;
