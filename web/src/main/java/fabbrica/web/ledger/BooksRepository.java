package fabbrica.web.ledger;

import static fabbrica.web.platform.storage.Columns.instant;
import static fabbrica.web.platform.storage.Columns.instantOrNull;

import fabbrica.core.ledger.Entry;
import fabbrica.core.ledger.Entry.Ending;
import fabbrica.core.ledger.Entry.Who;
import fabbrica.core.ledger.HandedOut;
import fabbrica.core.ledger.Period;
import fabbrica.core.ledger.Ran;
import fabbrica.core.ledger.Ran.Within;
import fabbrica.core.units.Money;
import fabbrica.web.ticket.Purpose;
import java.time.Instant;
import java.time.YearMonth;
import java.time.ZoneId;
import java.util.Currency;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL that reads what runs took and when things were handed out, one after another; it changes nothing. */
@Repository
class BooksRepository {

    private static final String ENTRIES = """
            select r.id as run_id, r.started_at, r.printer_id, r.cost_currency, o.grams, o.purged_g, o.support_g, c.ticket_id, c.outcome, c.milligrams, c.seconds, c.cost_minor,
                t.member_id, t.purpose, t.group_id
            from run r join run_copy c on c.run_id = r.id join promise o on o.id = r.promise_id join ticket t on t.id = c.ticket_id
            where r.started_at >= ? and r.started_at < ? and r.state <> 'RUNNING' order by r.started_at, r.id, c.copy_id""";
    private static final String RUNS = """
            select r.printer_id, r.started_at, r.real_minutes, r.state, r.minutes_from, o.earliest_s, o.latest_s
            from run r join promise o on o.id = r.promise_id
            where r.started_at >= ? and r.started_at < ? and r.state <> 'RUNNING'""";
    /** SQLite takes the tables of a cross join in this order, so that only what was handed out then is looked at. */
    private static final String HANDED_OUT = """
            select e.at as out_at, t.created_at, t.needed_by, d.collect_at,
                (select max(r.ended_at) from run_copy c join run r on r.id = c.run_id where c.ticket_id = t.id and c.outcome in ('WELL', 'USABLE')) as ready_at
            from event e cross join ticket t on t.id = e.ticket_id left join promised d on d.ticket_id = t.id
            where e.kind = 'handed-out' and e.at >= ? and e.at < ? and t.state = 'HANDED_OUT'
                and not exists (select 1 from event later where later.ticket_id = e.ticket_id and later.kind = 'handed-out' and later.id > e.id)""";

    private final JdbcClient jdbc;

    BooksRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /**
     * In the order in which their runs were started.
     *
     * @param printers their names
     */
    void entries(Period period, ZoneId zone, Map<String, String> printers, Consumer<Booked> each) {
        Map<Long, String> courses = new HashMap<>(), classes = new HashMap<>();
        Map<Long, Who> members = new HashMap<>();
        jdbc.sql("select id, name from ticket_group").query(row -> {
            courses.put(row.getLong("id"), row.getString("name"));
        });
        jdbc.sql("select id, name, class from member").query(row -> {
            members.put(row.getLong("id"), new Who(row.getLong("id"), row.getString("name")));
            classes.put(row.getLong("id"), row.getString("class"));
        });
        read(ENTRIES, period, zone, row -> {
            Instant startedAt = instant(row, "started_at");
            long member = row.getLong("member_id");
            double grams = Math.max(1e-9, row.getDouble("grams"));
            each.accept(new Booked(row.getLong("run_id"), row.getLong("ticket_id"), Objects.requireNonNull(printers.get(row.getString("printer_id"))), startedAt,
                    new Entry(YearMonth.from(startedAt.atZone(zone)), members.getOrDefault(member, Who.NOBODY), classes.getOrDefault(member, ""),
                            courses.getOrDefault(row.getLong("group_id"), ""), purpose(row.getString("purpose")), ending(row.getString("outcome")),
                            row.getLong("milligrams") / 1000.0, Math.min(1, row.getDouble("support_g") / grams), Math.min(1, row.getDouble("purged_g") / grams),
                            row.getLong("seconds"), Money.ofCoins(row.getLong("cost_minor"), Currency.getInstance(row.getString("cost_currency"))))));
        });
    }

    void runs(Period period, ZoneId zone, Map<String, String> printers, Consumer<Ran> each) {
        read(RUNS, period, zone, row -> {
            Instant startedAt = instant(row, "started_at");
            double seconds = 60 * row.getDouble("real_minutes");
            boolean failed = row.getString("state").equals("FAILED");
            each.accept(new Ran(Objects.requireNonNull(printers.get(row.getString("printer_id"))), YearMonth.from(startedAt.atZone(zone)), startedAt, seconds, failed,
                    failed || Objects.equals(row.getString("minutes_from"), "ESTIMATE") ? Within.UNTOLD
                            : Ran.within(seconds, row.getDouble("earliest_s"), row.getDouble("latest_s"))));
        });
    }

    /** What was handed out for good in a period. */
    void handedOut(Period period, ZoneId zone, Consumer<HandedOut> each) {
        read(HANDED_OUT, period, zone, row -> {
            Instant out = instant(row, "out_at");
            each.accept(new HandedOut(YearMonth.from(out.atZone(zone)), instant(row, "created_at"), instantOrNull(row, "ready_at"), out, instantOrNull(row, "needed_by"),
                    instantOrNull(row, "collect_at")));
        });
    }

    private void read(String sql, Period period, ZoneId zone, RowCallbackHandler row) {
        jdbc.sql(sql).params(period.start(zone).toEpochMilli(), period.end(zone).toEpochMilli()).query(row);
    }

    private static String purpose(@Nullable String name) {
        return name == null ? "" : Purpose.valueOf(name).label();
    }

    private static Ending ending(String outcome) {
        return switch (outcome) {
            case "WELL", "USABLE" -> Ending.GOOD;
            case "FAILED" -> Ending.FAILED;
            default -> Ending.STOPPED;
        };
    }
}
