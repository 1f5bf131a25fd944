package fabbrica.web.floor;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.tuple;

import java.nio.file.Path;
import java.util.Map;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Promises and runs that were written down before anything was learned from them. */
class LearnedMigrationTest {

    @Test
    void what_was_promised_was_worked_out_so_and_of_each_run_it_is_said_how_its_minutes_and_grams_are_known(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db") + "?foreign_keys=off");
        Flyway.configure().dataSource(source).target("23").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        for (int id = 1; id <= 4; id++) {
            jdbc.sql("""
                    insert into promise (id, plate_id, printer_id, phases, portions, prepare_s, total_s, earliest_s, latest_s, grams, purged_g, core_version, made_at)
                    values (?, 1, 'door', '{"OUTER_WALL":3000.0}', '{}', 600, 3600, 3500, 4200, 12.5, 0, '1', 0)""").params(id).update();
        }
        run(jdbc, 1, 60, 12.5);
        run(jdbc, 2, 71, 13);
        run(jdbc, 3, 66.4, 13.02);
        jdbc.sql("insert into run (id, plate_id, promise_id, printer_id, spool_id, core_version, state, started_at, cause) values (4, 1, 4, 'door', 1, '1', 'RUNNING', 0, '')").update();
        jdbc.sql("""
                insert into machine_file (file, printer_id, plate_id, hash, mark, checked, layers, sent_at, ordered_at, run_id, layer, filament_mm, over_at, whole, seconds)
                values ('a', 'door', 1, 'h', 'm', 1, 20, 0, 0, 3, 20, 4000, 9, 1, 3982)""").update();
        jdbc.sql("insert into run_defect (run_id, code) values (2, 'STRINGS')").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select * from run order by id").query((row, n) -> tuple(row.getString("minutes_from"), row.getString("grams_from"))).list())
                .containsExactly(tuple("ESTIMATE", "ESTIMATE"), tuple("MEASURED", "MEASURED"), tuple("MACHINE", "MACHINE"), tuple(null, null));
        assertThat(jdbc.sql("select distinct raw_phases, raw_s, raw_g, least_g, most_g, runs, support_g from promise").query().listOfRows())
                .containsExactly(Map.of("raw_phases", "{\"OUTER_WALL\":3000.0}", "raw_s", 3600.0, "raw_g", 12.5, "least_g", 12.5, "most_g", 12.5, "runs", 0, "support_g", 0.0));
        assertThat(jdbc.sql("select site from run_defect").query(String.class).optional()).isEmpty();
    }

    private static void run(JdbcClient jdbc, long id, double minutes, double grams) {
        jdbc.sql("""
                insert into run (id, plate_id, promise_id, printer_id, spool_id, core_version, state, started_at, ended_at, real_minutes, real_g, cause)
                values (?, 1, ?, 'door', 1, '1', 'DONE', 0, 1, ?, ?, '')""").params(id, id, minutes, grams).update();
    }
}
