package fabbrica.web.machine;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Runs of a lab from before machines were on a line. */
class MachineMigrationTest {

    @Test
    void runs_that_were_begun_by_hand_go_on_by_their_promise_and_no_machine_knows_them(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db"));
        Flyway.configure().dataSource(source).target("21").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        jdbc.sql("""
                insert into run (id, plate_id, promise_id, printer_id, spool_id, core_version, state, started_at)
                values (7, 1, 1, 'old', 1, '0', 'RUNNING', 1000)""").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select expected_at is null and first_layer_at is null from run where id = 7 and state = 'RUNNING'").query(Boolean.class).single()).isTrue();
        MachineRepository machines = new MachineRepository(jdbc);
        assertThat(machines.addresses()).isEmpty();
        assertThat(machines.ofRun(7)).isEmpty();
    }
}
