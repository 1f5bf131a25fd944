-- The way round the room: places in the order in which somebody comes to them, a line each.

alter table lab add column round text not null default '';
