-- What each printer does before and after a print, in the lab's own words; empty leaves the usual.
alter table printer add column own_start text not null default '';
alter table printer add column own_end text not null default '';
-- Members of a class pay its share of the price.
alter table member add column class text not null default '';
update lab set tariff = json_set(tariff, '$.perGram', 0, '$.rates', json('{}')) where tariff is not null;
