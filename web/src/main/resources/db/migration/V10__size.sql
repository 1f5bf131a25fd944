-- What the Ledger adds up, beside each other, so that ten years of runs are summed without reading them whole.
create index run_sums on run(started_at, printer_id, state, cost_currency, cost_minor, real_g, real_minutes, promise_id);
-- What is still open at the Counter, and what was closed last.
drop index ticket_state;
create index ticket_state on ticket(state, created_at);
-- Spools on the shelf.
create index spool_shelf on spool(material_id, colour, number) where not retired;
