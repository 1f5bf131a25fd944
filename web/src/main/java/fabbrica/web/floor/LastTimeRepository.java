package fabbrica.web.floor;

import fabbrica.core.learn.Likeness;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL that finds runs of before which tell something about one to come. */
@Repository
class LastTimeRepository {

    private final JdbcClient jdbc;

    LastTimeRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    void insert(long runId, Likeness part) {
        jdbc.sql("insert into run_likeness (run_id, height_mm, contact_mm2, volume_mm3, shadow_mm2, overhang_mm2) values (?, ?, ?, ?, ?, ?)")
                .params(runId, part.heightMm(), part.contactMm2(), part.volumeMm3(), part.shadowMm2(), part.overhangMm2()).update();
    }

    /** Runs that have ended of the same files as some tickets, the latest first. */
    List<Long> sameFile(Collection<Long> tickets, int most) {
        return jdbc.sql("""
                select distinct r.id, r.started_at from model m join ticket t on t.model_id = m.id join plate_copy c on c.ticket_id = t.id join run r on r.plate_id = c.plate_id
                where m.sha256 in (select o.sha256 from ticket w join model o on o.id = w.model_id where w.id in (:tickets)) and r.state <> 'RUNNING'
                order by r.started_at desc limit :most""").param("tickets", tickets).param("most", most).query((row, n) -> row.getLong("id")).list();
    }

    /** How many runs have ended of models from a source, and how many of them failed. */
    record Of(String source, int runs, int failed) {
    }

    /** Of the sources of some tickets. */
    List<Of> sameSource(Collection<Long> tickets) {
        return jdbc.sql("""
                select source, count(*) as runs, sum(state = 'FAILED') as failed from (
                    select distinct w.source, r.id, r.state from ticket w join ticket t on lower(trim(t.source)) = lower(trim(w.source)) and t.source <> ''
                    join plate_copy c on c.ticket_id = t.id join run r on r.plate_id = c.plate_id
                    where w.id in (:tickets) and w.source <> '' and r.state <> 'RUNNING') group by source""").param("tickets", tickets)
                .query((row, n) -> new Of(row.getString("source"), row.getInt("runs"), row.getInt("failed"))).list();
    }

    /** Runs that have ended of parts like one, the latest first. */
    List<Long> alike(Likeness part, Collection<Long> butFor, int most) {
        Set<Long> alike = new LinkedHashSet<>();
        jdbc.sql("""
                select l.* from run_likeness l join run r on r.id = l.run_id where l.height_mm between :low and :high and l.volume_mm3 between :less and :more
                    and r.state <> 'RUNNING' and r.id not in (:but) order by r.started_at desc limit 2000""").param("low", part.heightMm() / Likeness.most())
                .param("high", part.heightMm() * Likeness.most()).param("less", part.volumeMm3() / Likeness.most()).param("more", part.volumeMm3() * Likeness.most())
                .param("but", butFor).query(row -> {
                    Likeness other = new Likeness(row.getDouble("height_mm"), row.getDouble("contact_mm2"), row.getDouble("volume_mm3"), row.getDouble("shadow_mm2"),
                            row.getDouble("overhang_mm2"));
                    if (alike.size() < most && part.isLike(other)) {
                        alike.add(row.getLong("run_id"));
                    }
                });
        return List.copyOf(alike);
    }
}
