-- What somebody has begun by hand stands beside what was begun over a line.
insert into machine_file (file, printer_id, plate_id, hash, mark, checked, layers, sent_at, ordered_at, ordered_by, run_id)
select 'plate-' || plate_id || '-by-hand-' || id || '.gcode', printer_id, plate_id, '', '', 0, 0, started_at, started_at, started_by, id from run
where state = 'RUNNING' and id not in (select run_id from machine_file where run_id is not null);
