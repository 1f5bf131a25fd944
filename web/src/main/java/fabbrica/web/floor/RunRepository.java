package fabbrica.web.floor;

import static fabbrica.web.platform.storage.Columns.doubleOrNull;
import static fabbrica.web.platform.storage.Columns.instant;
import static fabbrica.web.platform.storage.Columns.instantOrNull;
import static fabbrica.web.platform.storage.Columns.longOrNull;

import fabbrica.core.estimate.Stage;
import fabbrica.core.estimate.Tariff.Used;
import fabbrica.core.learn.Experience;
import fabbrica.core.run.Defect;
import fabbrica.core.run.Deviation;
import fabbrica.core.run.Sign;
import fabbrica.core.run.Site;
import fabbrica.core.units.Money;
import fabbrica.web.floor.Took.Source;
import fabbrica.web.plan.LaidPlate;
import fabbrica.web.plan.StoredPhases;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Currency;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.OptionalDouble;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of runs and of how their copies ended. */
@Repository
class RunRepository {

    /** Plates with a model or a member of that name. */
    private static final String NAMED = """
            select c.plate_id from plate_copy c where c.ticket_id in (
                select t.id from ticket t where t.model_id in (select id from model where instr(lower(name), :words) > 0)
                union all select t.id from ticket t where t.member_id in (select id from member where instr(lower(name), :words) > 0))""";
    private static final String RUNS = """
            select r.*, coalesce(a.username, '') as starter, pr.name as printer_name, ma.name || ', ' || s.colour as spool_name,
                m.total_s as promised_s, m.prepare_s, m.grams as promised_g, m.raw_s, m.raw_g, m.runs as taught_by,
                (select group_concat(distinct o.name) from plate_copy c join ticket t on t.id = c.ticket_id join model o on o.id = t.model_id
                    where c.plate_id = r.plate_id) as what,
                (select group_concat(distinct b.name) from plate_copy c join ticket t on t.id = c.ticket_id join member b on b.id = t.member_id
                    where c.plate_id = r.plate_id) as members,
                (select group_concat(distinct c.ticket_id) from plate_copy c where c.plate_id = r.plate_id) as tickets,
                (select count(*) from plate_copy c where c.plate_id = r.plate_id) as copies,
                (select count(*) from run_copy c where c.run_id = r.id and c.outcome = 'FAILED') as failed_copies,
                (select group_concat(sign) from (select code || ':' || coalesce(site, '') || ':' || coalesce(height_mm, '') as sign from run_defect d where d.run_id = r.id
                    order by code)) as signs
            from run r join promise m on m.id = r.promise_id join printer pr on pr.id = r.printer_id join spool s on s.id = r.spool_id
            join material ma on ma.id = s.material_id left join account a on a.id = r.started_by""";

    private final JdbcClient jdbc;
    private final StoredPhases phases;

    RunRepository(JdbcClient jdbc, StoredPhases phases) {
        this.jdbc = jdbc;
        this.phases = phases;
    }

    long insert(LaidPlate plate, long promiseId, long spoolId, long nozzleId, String coreVersion, Instant at, String who) {
        return jdbc.sql("""
                insert into run (plate_id, promise_id, printer_id, spool_id, nozzle_id, core_version, file_hash, state, started_at, started_by)
                values (?, ?, ?, ?, ?, ?, (select file_hash from plate where id = ?), 'RUNNING', ?,
                    (select id from account where username = ? collate nocase)) returning id""")
                .params(plate.id(), promiseId, plate.plan().printerId(), spoolId, nozzleId, coreVersion, plate.id(), at.toEpochMilli(), who)
                .query(Long.class).single();
    }

    /** Ends a run that still runs; tells whether it did. */
    boolean end(long id, Run.State state, RunEnd end, Instant at, Money cost) {
        return jdbc.sql("update run set ended_at = ?, state = ? where id = ? and state = 'RUNNING'").params(at.toEpochMilli(), state.name(), id)
                .update() == 1 && save(id, state, end, cost);
    }

    /** What somebody has reported, in place of what was reported before. */
    boolean save(long id, Run.State state, RunEnd end, Money cost) {
        jdbc.sql("""
                update run set state = ?, real_minutes = ?, minutes_from = ?, real_g = ?, grams_from = ?, cost_minor = ?, cost_currency = ?, cause = ?, note = ?,
                    photo_sha256 = coalesce(?, photo_sha256), photo_type = coalesce(?, photo_type) where id = ?""")
                .params(Arrays.asList(state.name(), end.took().minutes(), end.took().minutesFrom().name(), end.took().grams(), end.took().gramsFrom().name(),
                        cost.coins(), cost.currency().getCurrencyCode(), end.cause(), end.note(), end.photoSha256(), end.photoType(), id)).update();
        jdbc.sql("delete from run_defect where run_id = ?").params(id).update();
        for (Sign sign : end.signs()) {
            jdbc.sql("insert into run_defect (run_id, code, site, height_mm) values (?, ?, ?, ?)")
                    .params(Arrays.asList(id, sign.defect().name(), sign.site().name(), sign.heightMm())).update();
        }
        jdbc.sql("delete from run_copy where run_id = ?").params(id).update();
        return true;
    }

    void looked(long id, Instant at) {
        jdbc.sql("update run set first_layer_at = ? where id = ?").params(at.toEpochMilli(), id).update();
    }

    void insert(RunCopy copy) {
        jdbc.sql("""
                insert into run_copy (run_id, copy_id, ticket_id, outcome, reason, milligrams, seconds, cost_minor)
                values (?, ?, ?, ?, ?, ?, ?, ?)""").params(copy.runId(), copy.copyId(), copy.ticketId(), copy.outcome().name(), copy.reason(),
                        Math.round(copy.grams() * 1000), copy.seconds(), copy.cost().coins()).update();
    }

    List<RunCopy> copies(Collection<Long> runs) {
        return runs.isEmpty() ? List.of() : jdbc.sql("""
                select c.*, r.cost_currency from run_copy c join run r on r.id = c.run_id where c.run_id in (:runs) order by c.copy_id""")
                .param("runs", runs).query((row, n) -> new RunCopy(row.getLong("run_id"), row.getLong("copy_id"), row.getLong("ticket_id"),
                        RunEnd.Outcome.valueOf(row.getString("outcome")), row.getString("reason"), row.getLong("milligrams") / 1000.0,
                        row.getLong("seconds"), Money.ofCoins(row.getLong("cost_minor"), Currency.getInstance(row.getString("cost_currency")))))
                .list();
    }

    Optional<Run> run(long id) {
        return jdbc.sql(RUNS + " where r.id = ?").params(id).query(this::readRun).optional();
    }

    List<Run> ofTickets(Collection<Long> tickets) {
        return tickets.isEmpty() ? List.of() : jdbc.sql(RUNS
                + " where r.plate_id in (select plate_id from plate_copy where ticket_id in (:tickets)) order by r.id").param("tickets", tickets)
                .query(this::readRun).list();
    }

    List<Run> runs(Collection<Long> some) {
        return some.isEmpty() ? List.of() : jdbc.sql(RUNS + " where r.id in (:runs)").param("runs", some).query(this::readRun).list();
    }

    List<Run> running() {
        return jdbc.sql(RUNS + " where r.state = 'RUNNING'").query(this::readRun).list();
    }

    /** Plastic and hours of members' copies since a moment, promised ones while they run. */
    Map<Long, Used> used(List<Long> members, Instant since) {
        Map<Long, Used> used = new HashMap<>();
        if (members.isEmpty()) {
            return used;
        }
        jdbc.sql("""
                select t.member_id, sum(c.milligrams) / 1000.0 as g, sum(c.seconds) / 3600.0 as h from run_copy c
                join run r on r.id = c.run_id join ticket t on t.id = c.ticket_id
                where t.member_id in (:members) and r.started_at >= :since group by t.member_id
                union all
                select member_id, sum(grams / copies), sum(total_s / copies) / 3600 from (
                    select t.member_id, m.grams, m.total_s, (select count(*) from plate_copy n where n.plate_id = r.plate_id) as copies
                    from run r join promise m on m.id = r.promise_id join plate_copy c on c.plate_id = r.plate_id join ticket t on t.id = c.ticket_id
                    where r.state = 'RUNNING' and t.member_id in (:members)) group by member_id""").param("members", members)
                .param("since", since.toEpochMilli()).query(row -> {
                    used.merge(row.getLong("member_id"), new Used(row.getDouble("g"), row.getDouble("h")),
                            (a, b) -> new Used(a.grams() + b.grams(), a.hours() + b.hours()));
                });
        return used;
    }

    /**
     * What the latest runs of a printer teach, the earliest first: those whose phases were promised. Estimates teach nothing, nor does the length of what was
     * cut short; where no machine has told that, a run that failed may have been, and so may one with a copy that was cancelled.
     */
    List<Experience> experiences(String printerId, int most) {
        return jdbc.sql("""
                select r.printer_id, m.raw_phases, m.raw_g, r.real_minutes, r.minutes_from <> 'ESTIMATE' as timed, r.real_g, r.grams_from <> 'ESTIMATE' as weighed,
                    coalesce(f.whole, r.state = 'DONE' and not exists (select 1 from run_copy c where c.run_id = r.id and c.outcome = 'CANCELLED')) as whole,
                    f.layer, f.heating_s, f.readying_s, coalesce(f.paused_s, 0) as paused_s
                from run r join promise m on m.id = r.promise_id left join machine_file f on f.run_id = r.id and f.over_at is not null
                where r.printer_id = ? and r.state <> 'RUNNING' and m.raw_phases <> '{}' order by r.started_at desc, r.id desc limit ?""")
                .params(printerId, most).query(this::readExperience).list().reversed();
    }

    private Experience readExperience(ResultSet row, int number) throws SQLException {
        boolean whole = row.getBoolean("whole");
        Double heating = doubleOrNull(row, "heating_s");
        return new Experience(row.getString("printer_id"), Experience.stages(phases.of(row.getString("raw_phases"))),
                heating != null && (whole || row.getInt("layer") > 0) ? Map.of(Stage.HEATING, heating, Stage.READYING, row.getDouble("readying_s")) : Map.of(),
                whole && row.getBoolean("timed") ? OptionalDouble.of(60 * row.getDouble("real_minutes") - row.getDouble("paused_s")) : OptionalDouble.empty(),
                row.getDouble("raw_g"), whole && row.getBoolean("weighed") ? OptionalDouble.of(row.getDouble("real_g")) : OptionalDouble.empty());
    }

    /** Of the runs that ended on each printer, how many and how many of them failed. */
    Map<String, int[]> ended() {
        Map<String, int[]> ended = new HashMap<>();
        jdbc.sql("select printer_id, count(*) as ended, sum(state = 'FAILED') as failed from run where state <> 'RUNNING' group by printer_id").query(row -> {
            ended.put(row.getString("printer_id"), new int[] {row.getInt("ended"), row.getInt("failed")});
        });
        return ended;
    }

    /**
     * Runs that match, the latest first.
     *
     * @param before only those that started before this one did; null for the latest
     */
    List<Run> runs(RunFilter filter, @Nullable Long before, int most) {
        Where where = Where.of(filter);
        if (before != null) {
            where.and("(r.started_at, r.id) < (select started_at, id from run where id = :before)", "before", before);
        }
        return jdbc.sql(RUNS + where.clause() + " order by r.started_at desc, r.id desc limit " + most).params(where.values())
                .query(this::readRun).list();
    }

    /** Hands over all runs that match, the latest first, one after another. */
    void each(RunFilter filter, Consumer<Run> each) {
        Where where = Where.of(filter);
        try (Stream<Run> runs = jdbc.sql(RUNS + where.clause() + " order by r.started_at desc, r.id desc").params(where.values())
                .query(this::readRun).stream()) {
            runs.forEach(each);
        }
    }

    /** What the runs that match and have ended come to. */
    RunSums sums(RunFilter filter) {
        Where where = Where.of(filter);
        return jdbc.sql("""
                select r.cost_currency, sum(r.cost_minor) as coins, count(*) as ended, sum(r.state = 'FAILED') as failed,
                    coalesce(sum(r.real_g), 0) as g, coalesce(sum(r.real_minutes), 0) as minutes,
                    coalesce(sum(m.total_s) filter (where r.state = 'DONE'), 0) as promised,
                    coalesce(sum(r.real_minutes) filter (where r.state = 'DONE'), 0) as took
                from run r join promise m on m.id = r.promise_id %s group by r.cost_currency order by r.cost_currency"""
                .formatted(where.andAlso("r.state <> 'RUNNING'").clause())).params(where.values()).query(RunRepository::readSums).list().stream()
                .reduce(RunSums.NOTHING, RunSums::plus);
    }

    private static RunSums readSums(ResultSet row, int number) throws SQLException {
        String currency = row.getString("cost_currency");
        return new RunSums(row.getLong("ended"), row.getLong("failed"), row.getDouble("g"), row.getDouble("minutes") / 60,
                new Deviation(row.getDouble("promised") / 60, row.getDouble("took")),
                currency == null ? List.of() : List.of(Money.ofCoins(row.getLong("coins"), Currency.getInstance(currency))));
    }

    /** Conditions, all of which hold, with their values. */
    private record Where(List<String> conditions, Map<String, Object> values) {

        static Where of(RunFilter filter) {
            Where where = new Where(new ArrayList<>(), new HashMap<>());
            if (!filter.printerId().isEmpty()) {
                where.and("r.printer_id = :printer", "printer", filter.printerId());
            }
            if (filter.state() != null) {
                where.and("r.state = :state", "state", filter.state().name());
            }
            if (filter.from() != null) {
                where.and("r.started_at >= :from", "from", filter.from().toEpochMilli());
            }
            if (filter.to() != null) {
                where.and("r.started_at < :to", "to", filter.to().toEpochMilli());
            }
            if (!filter.words().isEmpty()) {
                where.and("(instr(lower(r.cause), :words) > 0 or r.plate_id in (" + NAMED + "))", "words",
                        filter.words().toLowerCase(Locale.ROOT));
            }
            return where;
        }

        void and(String condition, String name, Object value) {
            conditions.add(condition);
            values.put(name, value);
        }

        Where andAlso(String condition) {
            conditions.add(condition);
            return this;
        }

        String clause() {
            return conditions.isEmpty() ? "" : " where " + String.join(" and ", conditions);
        }
    }

    private Run readRun(ResultSet row, int number) throws SQLException {
        Long cost = longOrNull(row, "cost_minor");
        return new Run(row.getLong("id"), row.getLong("plate_id"), parted(row.getString("what")), parted(row.getString("members")),
                split(row.getString("tickets")).stream().map(Long::valueOf).sorted().toList(), row.getInt("copies"), row.getString("printer_id"),
                row.getString("printer_name"), row.getLong("spool_id"), row.getString("spool_name"), row.getDouble("promised_s"),
                row.getDouble("prepare_s"), row.getDouble("promised_g"), row.getDouble("raw_s"), row.getDouble("raw_g"), row.getInt("taught_by"), Run.State.valueOf(row.getString("state")), instant(row, "started_at"),
                row.getString("starter"), instantOrNull(row, "expected_at"), instantOrNull(row, "first_layer_at"), instantOrNull(row, "ended_at"), doubleOrNull(row, "real_minutes"), source(row, "minutes_from"), doubleOrNull(row, "real_g"), source(row, "grams_from"),
                cost == null ? null : Money.ofCoins(cost, Currency.getInstance(row.getString("cost_currency"))), row.getInt("failed_copies"),
                split(row.getString("signs")).stream().map(RunRepository::sign).toList(), row.getString("cause"), row.getString("note"),
                row.getString("photo_sha256"), row.getString("photo_type"));
    }

    private static @Nullable Source source(ResultSet row, String column) throws SQLException {
        String name = row.getString(column);
        return name == null ? null : Source.valueOf(name);
    }

    /** Of code, site and height; without a site where it usually shows. */
    private static Sign sign(String stored) {
        String[] parts = stored.split(":", 3);
        Defect defect = Defect.valueOf(parts[0]);
        return new Sign(defect, parts[1].isEmpty() ? defect.usualSite() : Site.valueOf(parts[1]), parts[2].isEmpty() ? null : Double.valueOf(parts[2]));
    }

    private static List<String> split(@Nullable String joined) {
        return joined == null ? List.of() : List.of(joined.split(","));
    }

    private static String parted(@Nullable String joined) {
        return joined == null ? "" : joined.replace(",", ", ");
    }
}
