package fabbrica.web.learn;

import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Repository;

/** The SQL that reads runs for what they teach; it changes nothing. */
@Repository
class RunFactRepository {

    private static final String SEVERAL = "several";

    private final JdbcClient jdbc;

    RunFactRepository(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    private record Asked(String source, String purpose) {

        Asked with(Asked other) {
            return new Asked(source.equals(other.source) ? source : SEVERAL, purpose.equals(other.purpose) ? purpose : SEVERAL);
        }
    }

    /** Runs that have ended since a moment, cancelled ones left out, in the order in which they were started. */
    List<RunFact> since(Instant from) {
        Map<Long, Asked> asked = new HashMap<>();
        jdbc.sql("""
                select distinct c.plate_id, trim(t.source) as source, coalesce(t.purpose, '') as purpose from run r join plate_copy c on c.plate_id = r.plate_id
                join ticket t on t.id = c.ticket_id where r.started_at >= ?""").params(from.toEpochMilli()).query(row -> {
                    asked.merge(row.getLong("plate_id"), new Asked(row.getString("source"), row.getString("purpose")), Asked::with);
                });
        Map<Long, Double> hours = new HashMap<>();
        jdbc.sql("""
                select n.id, n.hours_before + coalesce(sum(r.real_minutes), 0) / 60 as hours from nozzle n left join run r on r.nozzle_id = n.id and r.started_at < ?
                group by n.id""").params(from.toEpochMilli()).query(row -> {
                    hours.put(row.getLong("id"), row.getDouble("hours"));
                });
        List<RunFact> facts = new ArrayList<>();
        jdbc.sql("""
                select r.plate_id, r.printer_id, p.name as printer, a.name as material, r.nozzle_id, r.started_at, r.real_minutes, o.raw_g,
                    r.state = 'FAILED' or exists (select 1 from run_copy c where c.run_id = r.id and c.outcome = 'FAILED') as failed,
                    exists (select 1 from run_copy c where c.run_id = r.id and c.outcome <> 'CANCELLED') as printed
                from run r join printer p on p.id = r.printer_id join promise o on o.id = r.promise_id join spool s on s.id = r.spool_id join material a on a.id = s.material_id
                where r.started_at >= ? and r.state <> 'RUNNING' order by r.started_at, r.id""").params(from.toEpochMilli()).query(row -> {
                    long nozzle = row.getLong("nozzle_id");
                    double before = nozzle == 0 ? -1 : hours.getOrDefault(nozzle, 0.0);
                    hours.merge(nozzle, row.getDouble("real_minutes") / 60, Double::sum);
                    Asked of = asked.getOrDefault(row.getLong("plate_id"), new Asked("", ""));
                    if (row.getBoolean("printed")) {
                        facts.add(new RunFact(row.getString("printer_id"), row.getString("printer"), row.getString("material"), before, of.source(), of.purpose(), row.getDouble("raw_g"),
                                Instant.ofEpochMilli(row.getLong("started_at")), row.getBoolean("failed")));
                    }
                });
        return facts;
    }

    /** Something that was done on a printer. */
    record Care(String printerId, String what, Instant at) {
    }

    /** In the order in which it was done. */
    List<Care> care(Instant from) {
        return jdbc.sql("""
                select t.printer_id, t.what, d.at from maintenance_done d join maintenance_task t on t.id = d.task_id where d.at >= ? order by d.at""").params(from.toEpochMilli())
                .query((row, n) -> new Care(row.getString("printer_id"), row.getString("what"), Instant.ofEpochMilli(row.getLong("at")))).list();
    }
}
