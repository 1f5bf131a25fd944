package fabbrica.web.floor;

import fabbrica.core.run.Defect;
import fabbrica.core.run.Remedy;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL of tries after what failed, and of what runs around them show. */
@Repository
class RetryRepository {

    private final JdbcClient jdbc;

    RetryRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void insert(long plateId, long runId, Remedy remedy) {
        jdbc.sql("insert into retry (plate_id, run_id, remedy) values (?, ?, ?)").params(plateId, runId, remedy.name()).update();
    }

    /** What is changed on a plate that is printed again. */
    Optional<Remedy> of(long plateId) {
        return jdbc.sql("select remedy from retry where plate_id = ?").params(plateId).query(String.class).optional().map(Remedy::valueOf);
    }

    /** A plate that waits to print again what failed in a run. */
    Optional<Long> waiting(long runId) {
        return jdbc.sql("select max(t.plate_id) from retry t join plate p on p.id = t.plate_id where t.run_id = ? and p.state = 'QUEUED'").params(runId).query(Long.class).optional();
    }

    /** All runs of the tries to which a run belongs, the first one first, with what was changed for each. */
    Map<Long, @Nullable Remedy> chain(long runId) {
        Map<Long, @Nullable Remedy> chain = new LinkedHashMap<>();
        jdbc.sql("""
                with recursive before(id, plate_id) as (select id, plate_id from run where id = :run
                        union select r.id, r.plate_id from before b join retry t on t.plate_id = b.plate_id join run r on r.id = t.run_id),
                    after(id, plate_id) as (select id, plate_id from run where id = :run
                        union select r.id, r.plate_id from after a join retry t on t.run_id = a.id join run r on r.plate_id = t.plate_id)
                select c.id, t.remedy from (select * from before union select * from after) c left join retry t on t.plate_id = c.plate_id order by c.id""")
                .param("run", runId).query(row -> {
                    String remedy = row.getString("remedy");
                    chain.put(row.getLong("id"), remedy == null ? null : Remedy.valueOf(remedy));
                });
        return chain;
    }

    /** Runs on a printer from one moment to another. */
    int between(String printerId, Instant from, Instant to) {
        return jdbc.sql("select count(*) from run where printer_id = ? and started_at >= ? and started_at < ?").params(printerId, from.toEpochMilli(), to.toEpochMilli())
                .query(Integer.class).single();
    }

    /** How many runs were looked at, and how many of them show one of some signs. */
    record Alike(int runs, int alike) {
    }

    /** Of the latest runs of a printer before a moment, but for some. */
    Alike onPrinter(String printerId, Run before, Collection<Long> butFor, Collection<Defect> signs, int most) {
        return alike("printer_id", printerId, before, butFor, signs, most);
    }

    /** Of the latest runs from a spool before a moment, but for some. */
    Alike fromSpool(long spoolId, Run before, Collection<Long> butFor, Collection<Defect> signs, int most) {
        return alike("spool_id", spoolId, before, butFor, signs, most);
    }

    private Alike alike(String column, Object value, Run before, Collection<Long> butFor, Collection<Defect> signs, int most) {
        return jdbc.sql("""
                select count(*) as runs, coalesce(sum(exists (select 1 from run_defect d where d.run_id = r.id and d.code in (:codes))), 0) as alike from (
                    select id from run where %s = :value and started_at < :before and state <> 'RUNNING' and id not in (:but) order by started_at desc limit :most) r"""
                .formatted(column)).param("codes", signs.isEmpty() ? List.of("") : signs.stream().map(Defect::name).toList()).param("value", value)
                .param("before", before.startedAt().toEpochMilli()).param("but", butFor).param("most", most)
                .query((row, n) -> new Alike(row.getInt("runs"), row.getInt("alike"))).single();
    }
}
