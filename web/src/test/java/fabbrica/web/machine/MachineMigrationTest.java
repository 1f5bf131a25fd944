package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import java.time.Instant;
import java.util.Arrays;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Runs of a lab from before machines were on a line. */
class MachineMigrationTest {

    private static final String RUN = """
            insert into run (id, plate_id, promise_id, printer_id, spool_id, core_version, state, started_at, ended_at) values (?, ?, 1, ?, ?, '0', ?, 1000, ?)""";

    private DriverManagerDataSource lab;
    private JdbcClient jdbc;

    private void at(Path folder, String version) {
        lab = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db"));
        Flyway.configure().dataSource(lab).target(version).load().migrate();
        jdbc = JdbcClient.create(lab);
    }

    private void goesOn(long run, long plate, String printer) {
        jdbc.sql(RUN).params(Arrays.asList(run, plate, printer, run, "RUNNING", null)).update();
    }

    private void toNow() {
        Flyway.configure().dataSource(lab).load().migrate();
    }

    @Test
    void runs_that_were_begun_by_hand_go_on_by_their_promise_from_before_machines_were_on_a_line(@TempDir Path folder) {
        at(folder, "21");
        goesOn(7, 1, "old");
        toNow();
        assertThat(jdbc.sql("select expected_at is null and first_layer_at is null from run where id = 7 and state = 'RUNNING'").query(Boolean.class).single()).isTrue();
        assertThat(new MachineRepository(jdbc).address("old")).isEmpty();
    }

    @Test
    void what_goes_on_by_hand_is_reckoned_from_its_start_and_what_has_ended_or_is_on_a_line_stays_as_it_was(@TempDir Path folder) {
        at(folder, "22");
        goesOn(7, 1, "old");
        jdbc.sql(RUN).params(8, 2, "door", 8, "DONE", 2000).update();
        goesOn(10, 4, "glass");
        jdbc.sql("""
                insert into machine_file (file, printer_id, plate_id, hash, mark, checked, layers, sent_at, ordered_at, run_id)
                values ('plate-4-a.gcode', 'glass', 4, 'hash', 'mark', 1, 20, 900, 950, 10)""").update();
        toNow();
        MachineRepository machines = new MachineRepository(jdbc);
        MachineFile byHand = machines.ofRun(7).orElseThrow();
        assertThat(byHand.isAtIt()).isTrue();
        assertThat(byHand.orderedAt()).isEqualTo(Instant.ofEpochMilli(1000));
        assertThat(machines.open("old")).containsExactly(byHand);
        assertThat(machines.ofRun(8)).isEmpty();
        assertThat(machines.ofRun(10).orElseThrow().file()).isEqualTo("plate-4-a.gcode");
    }
}
