-- What a printer's control board holds its motors to: top speeds along x, y and of filament, accelerations of x, y, z and
-- filament, moves looked ahead, moves a second, seconds of filament fed ahead; printers so far have the usual one.
alter table printer add column board text not null default '2000 2000 120 100000 100000 100 3000 16 1000 0';
-- One change of filament or tool, as the lab has measured it.
alter table printer add column change_s real not null default 120;
-- Volumes, overhangs and how parts stand are measured anew.
delete from inspection;
