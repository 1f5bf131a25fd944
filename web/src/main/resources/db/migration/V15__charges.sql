-- What a ticket costs its member: asked about, agreed to, worked out when it is queued, and paid. In the smallest coin of the currency.
create table charge (
    ticket_id     integer primary key references ticket(id),
    currency      text not null check (length(currency) = 3),
    price_minor   integer check (price_minor >= 0),
    items         text check (items is null or json_valid(items)),
    vat_minor     integer not null default 0,
    asked_minor   integer check (asked_minor >= 0),
    agreed_minor  integer check (agreed_minor >= 0),
    paid_at       integer,
    receipt       integer unique,
    check ((paid_at is null) = (receipt is null))
) strict;
create index charge_paid on charge(paid_at);
update lab set tariff = json_set(tariff, '$.askAbove', 0.0) where tariff is not null;
