-- Years of a lab's life, made of what its first weeks have printed: of every 25 tickets one comes to nothing, a third of the others
-- fails once, a third is of two copies and some of them of three, each on a plate of its own. In less than a year one in nine fails,
-- on "old" all do twice from four tenths of the time until it is oiled at seven tenths, and some are printed up to three days later. "span"
-- says how many tickets, over how many days, and the midnight they end at. Only what happened is made up: parts, recipes and promises
-- are those of the weeks.
create temp table sample as
    select row_number() over (order by t.id) - 1 as nth, m.name, m.sha256, m.bytes, m.format, m.declared_unit, t.purpose, t.source, t.unit,
        t.scale_percent, t.rotation, n.starting_point, n.recipe, n.printer_id, p.sequence, c.part, c.x_mm, c.y_mm, c.turn_deg, o.phases,
        o.portions, o.prepare_s, o.total_s, o.earliest_s, o.latest_s, o.grams, o.least_g, o.most_g, o.purged_g, o.support_g,
        o.runs, o.raw_phases, o.raw_s, o.raw_g, r.core_version, r.cost_minor, r.cost_currency, h.price_minor, h.items, h.vat_minor
    from ticket t join model m on m.id = t.model_id join plate_copy c on c.ticket_id = t.id join plate p on p.id = c.plate_id
    join plan n on n.id = p.plan_id join run r on r.plate_id = p.id and r.state = 'DONE' join promise o on o.id = r.promise_id
    left join charge h on h.ticket_id = t.id
    where t.state = 'HANDED_OUT' and t.quantity = 1;
create temp table base as select (select count(*) from sample) as samples, (select count(*) from member) as members,
    (select max(id) from member) as member, (select max(id) from spool) as spool, (select max(number) from spool) as number,
    (select max(id) from plan) as plan, (select max(id) from hand_over) as hand_over, (select max(id) from model) as model,
    (select max(id) from ticket) as ticket, (select max(id) from plate) as plate, (select max(id) from run) as run,
    (select max(id) from promise) as promise, (select max(id) from plate_copy) as copy, (select min(id) from account) as account,
    (select coalesce(max(receipt), 0) from charge) as receipt,
    tickets, days, until_ms, max(tickets / 100, 12) as newcomers, iif(days < 365, 86400000, 0) as later_ms from span;

create temp table taken as
    with recursive count(n) as (select 1 union all select n + 1 from count, base where n < tickets)
    select n, ticket + n as id, (n * 7919) % samples as sample, n % 25 = 0 as idle,
        until_ms - 86400000 * cast(ceil((tickets - n + 1) * days * 1.0 / tickets) as integer)
            + 36000000 + cast(mod((tickets - n + 1) * days * 1.0 / tickets, 1) * 25200000 as integer) as at,
        case when n % 3 = 0 then 1 + (n * 31) % members else member + 1 + (n / 100 + (n * 131) % 60) % newcomers end as member_id
    from count, base;
create temp table tried as
    select row_number() over (order by at, n, kind) as nth, x.* from (
        select n, 0 as kind, at + 5400000 + n % 4 * later_ms as at from taken, base where not idle
        union all select n, -1, at + 1200000 + n % 4 * later_ms from taken, base where not idle and iif(days < 365, n * 7919 % 101 % 9 = 1, n % 3 = 1)
        union all select n, -1, at + second * 1800000 + n % 4 * later_ms from taken t join sample s on s.nth = t.sample, base, (select 1 as second union select 2)
            where not idle and days < 365 and s.printer_id = 'old' and n between 0.4 * tickets and 0.7 * tickets
        union all select n, 1, at + 9000000 + n % 4 * later_ms from taken, base where not idle and n % 3 = 2
        union all select n, 2, at + 12600000 + n % 4 * later_ms from taken, base where not idle and n % 15 = 14) x;
create temp table ran as
    select r.nth, r.n, t.id as ticket_id, t.member_id, t.sample, s.printer_id, r.kind = -1 as failed, r.at,
        r.at + cast(s.total_s * 1000 * case r.kind when -1 then 0.3 else 1 + 0.01 * (r.nth * 37 % 12) end as integer) as ended_at,
        s.grams * case r.kind when -1 then 0.3 else 0.98 + 0.01 * (r.nth * 53 % 6) end as g,
        dense_rank() over (order by r.n / 60, s.printer_id) as spool
    from tried r join taken t on t.n = r.n join sample s on s.nth = t.sample;
create unique index temp.taken_n on taken(n);
create unique index temp.ran_nth on ran(nth);
create index temp.ran_n on ran(n, nth);
create index temp.ran_spool on ran(spool, nth);

insert into member (id, name, minor, grown_up, class, since)
    with recursive count(n) as (select 1 union all select n + 1 from count, base where n < newcomers)
    select member + n,
        json_extract('["Ada", "Bo", "Cleo", "Dov", "Esi", "Finn", "Gita", "Hugo", "Ilse", "Jaro", "Kaya", "Lev", "Mona"]', '$[' || (n % 13) || ']') || ' '
        || json_extract('["Arden", "Bexley", "Corvin", "Dellar", "Estrin", "Fallow", "Garrow", "Hollin", "Ivers", "Jessop", "Kestle"]', '$[' || (n % 11) || ']')
        || iif(newcomers > 143, ' ' || n, ''), n % 5 = 0, case n % 5 when 0 then 'at home' else '' end, json_extract('["Students", "", "Members of the house", "Guests"]', '$[' || (n % 4) || ']'), until_ms - 86400000 * (days * (newcomers - n + 2) / newcomers)
    from count, base;

insert into spool (id, number, material_id, colour, net_g, price_per_kg_minor, opened_on, retired)
    select b.spool + r.spool, number + r.spool, 'pla', json_extract('["sand", "bottle green", "signal red", "lilac"]', '$[' || (r.spool % 4) || ']'),
        max(1000, ceil(sum(g) / 250) * 250), 2400, date(min(at) / 1000, 'unixepoch'), 1
    from ran r, base b group by r.spool;
insert into spool_movement (spool_id, at, by_account, kind, milligrams)
    select s.id, (select min(at) from ran where spool = s.id - b.spool) - 3600000, b.account, 'ADDED', cast(1000 * net_g as integer)
    from spool s, base b where s.id > b.spool;
insert into plan (id, starting_point, recipe, printer_id, spool_id, fresh, made_at)
    select plan + row_number() over (order by r.spool, starting_point, recipe), starting_point, recipe, s.printer_id, b.spool + r.spool, 0, min(at)
    from ran r join sample s on s.nth = r.sample, base b group by r.spool, starting_point, recipe;
create temp table planned as select n.id, n.spool_id, n.recipe, n.starting_point from plan n, base b where n.spool_id > b.spool;
create unique index temp.planned_for on planned(spool_id, recipe, starting_point);

insert into hand_over (id, name, token, created_at) select hand_over + n, s.name, 'years-' || n, at from taken t join sample s on s.nth = t.sample, base;
insert into model (id, hand_over_id, name, sha256, bytes, format, declared_unit)
    select model + n, hand_over + n, s.name, s.sha256, s.bytes, s.format, s.declared_unit from taken t join sample s on s.nth = t.sample, base;
insert into ticket (id, model_id, state, member_id, purpose, needed_by, quantity, source, unit, scale_percent, rotation, plan_id, created_at)
    select t.id, model + t.n, case when not idle then 'HANDED_OUT' when n % 2 = 0 then 'DECLINED' else 'WITHDRAWN' end, member_id, s.purpose, iif(n % 4, at + 86400000 * (2 + n % 7), null),
        1 + iif(idle, 0, (t.n % 3 = 2) + (t.n % 15 = 14)), s.source, s.unit, s.scale_percent, s.rotation,
        (select p.id from ran r join planned p on p.spool_id = b.spool + r.spool and p.recipe = s.recipe and p.starting_point = s.starting_point
            where r.n = t.n order by r.nth desc limit 1), at
    from taken t join sample s on s.nth = t.sample, base b;

insert into plate (id, plan_id, sequence, state, place, made_at, queued_at)
    select b.plate + r.nth, p.id, s.sequence, 'ENDED', b.plate + r.nth, r.at - 600000, r.at - 600000
    from ran r join sample s on s.nth = r.sample, base b
    join planned p on p.spool_id = b.spool + r.spool and p.recipe = s.recipe and p.starting_point = s.starting_point;
insert into plate_copy (id, plate_id, ticket_id, nth, part, x_mm, y_mm, turn_deg)
    select copy + r.nth, plate + r.nth, r.ticket_id, 1, part, x_mm, y_mm, turn_deg from ran r join sample s on s.nth = r.sample, base;
insert into promise (id, plate_id, printer_id, phases, portions, prepare_s, total_s, earliest_s, latest_s, grams, least_g, most_g, purged_g, support_g, core_version, runs, raw_phases, raw_s, raw_g,
        made_at)
    select promise + r.nth, plate + r.nth, s.printer_id, phases, portions, prepare_s, total_s, earliest_s, latest_s, grams, least_g, most_g, purged_g, support_g, core_version,
        runs, raw_phases, raw_s, raw_g, r.at - 600000 from ran r join sample s on s.nth = r.sample, base;
insert into run (id, plate_id, promise_id, printer_id, spool_id, nozzle_id, core_version, state, started_at, started_by, ended_at, real_minutes, minutes_from, real_g, grams_from,
        cost_minor, cost_currency, cause)
    select run + r.nth, plate + r.nth, promise + r.nth, r.printer_id, b.spool + r.spool, iif(days < 365, (select nozzle_id from printer where id = r.printer_id), null), core_version, iif(failed, 'FAILED', 'DONE'), r.at, account,
        ended_at, (ended_at - r.at) / 60000.0, 'MEASURED', round(g, 1), 'MEASURED', cost_minor, cost_currency,
        iif(failed, json_extract('["finger marks on the plate", "draught from the door", "spool was tangled", ""]', '$[' || (r.n % 4) || ']'), '')
    from ran r join sample s on s.nth = r.sample, base b;
insert into run_copy (run_id, copy_id, ticket_id, outcome, milligrams, seconds, cost_minor)
    select run + r.nth, copy + r.nth, r.ticket_id, iif(failed, 'FAILED', 'WELL'), cast(round(real_g * 1000) as integer),
        cast(round(real_minutes * 60) as integer), n.cost_minor from ran r, base b join run n on n.id = b.run + r.nth;
insert into run_defect (run_id, code)
    select run + nth, json_extract('["CAME_OFF", "STRINGS", "GAPS", "SHIFTED"]', '$[' || (n % 4) || ']') from ran, base where failed;
insert into spool_movement (spool_id, at, by_account, kind, milligrams, run_id)
    select b.spool + r.spool, r.ended_at, account, iif(failed, 'FAILED', 'USED'), -cast(round(real_g * 1000) as integer), n.id
    from ran r, base b join run n on n.id = b.run + r.nth order by r.nth;

insert into event (at, by_account, kind, ticket_id, run_id, plate_id, printer_id, facts)
    select at, account, kind, ticket_id, run_id, plate_id, printer_id, facts from (
        select at, 0 as step, 'handed-over' as kind, id as ticket_id, null as run_id, null as plate_id, null as printer_id, '{}' as facts from taken
        union all select at + 300000, 1, iif(idle, iif(n % 2 = 0, 'declined', 'withdrawn'), 'accepted'), id, null, null, null, '{}' from taken
        union all select r.at - 600000, 2, 'queued', ticket_id, null, plate + r.nth, r.printer_id,
            json_object('copies', 1, 'seconds', total_s, 'grams', grams) from ran r join sample s on s.nth = r.sample, base
        union all select r.at, 3, 'run-started', ticket_id, run + r.nth, plate + r.nth, r.printer_id, '{}' from ran r, base
        union all select r.ended_at, 4, 'run-ended', ticket_id, run + r.nth, plate + r.nth, r.printer_id,
            json_object('well', iif(failed, 0, 1), 'failed', failed, 'cancelled', 0, 'seconds', (r.ended_at - r.at) / 1000, 'grams', round(g, 1),
                'defects', json(iif(failed, (select json_array(code) from run_defect where run_id = run + r.nth), '[]')), 'done', max(0, kind + 1),
                'of', 1 + (r.n % 3 = 2) + (r.n % 15 = 14))
            from ran r join tried d on d.nth = r.nth, base
        union all select max(ended_at) + 1800000 * (1 + n * 7919 % 61 * (n % 2)), 5, 'handed-out', ticket_id, null, null, null, '{}' from ran group by ticket_id), base
    order by at, step;
insert into outbox (event_id, delivered_at) select e.id, e.at from event e where e.kind = 'run-ended' and e.run_id > (select run from base)
    and (json_extract(e.facts, '$.failed') > 0 or json_extract(e.facts, '$.done') >= json_extract(e.facts, '$.of'));

insert into promised (ticket_id, collect_at) select ticket_id, max(ended_at) + iif(n % 9, 5400000, -3600000) from ran group by ticket_id;
insert into charge (ticket_id, currency, price_minor, items, vat_minor, paid_at, receipt)
    select r.ticket_id, s.cost_currency, s.price_minor, s.items, s.vat_minor, max(r.ended_at) + 3600000, b.receipt + row_number() over (order by max(r.ended_at), r.ticket_id)
    from ran r join sample s on s.nth = r.sample, base b where s.price_minor > 0 group by r.ticket_id;
insert into maintenance_done (task_id, at, by_account, hours)
    select m.id, t.at, account, since_hours from maintenance_task m join taken t on t.n = cast(0.7 * tickets as integer), base where m.printer_id = 'old' and days < 365;

drop table planned;
drop table ran;
drop table tried;
drop table taken;
drop table base;
drop table sample;
drop table span;
