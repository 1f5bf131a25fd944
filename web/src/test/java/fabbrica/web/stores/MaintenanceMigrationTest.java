package fabbrica.web.stores;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.schedule.Task;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** What kept the printers of a lab that has worked with earlier versions. */
class MaintenanceMigrationTest {

    @Test
    void what_was_to_be_done_takes_a_quarter_of_an_hour_and_was_done_when_it_was_done(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db") + "?foreign_keys=on");
        Flyway.configure().dataSource(source).target("4").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        jdbc.sql("insert into nozzle (id, bore_mm, hardened) values (1, 0.4, 0)").update();
        jdbc.sql("""
                insert into printer (id, name, nozzle_id, width_mm, depth_mm, height_mm, max_speed, acceleration, corner_speed,
                    z_speed, max_flow, retraction_mm, retraction_speed, bed_c_per_s, nozzle_c_per_s, homing_s, levelling_s,
                    purge_s, purge_mm3, filament_mm, enclosed, max_nozzle_c, max_bed_c)
                values ('veteran', 'Veteran', 1, 200, 180, 190, 150, 600, 7, 9, 10, 1, 40, 0.2, 2, 20, 60, 15, 40, 1.75, 0,
                    255, 90)""").update();
        Flyway.configure().dataSource(source).target("20").load().migrate();
        jdbc.sql("insert into maintenance_task (id, printer_id, what, every_hours, since, since_hours) values (7, 'veteran', 'Oil the rods', 200, 1000, 0)").update();
        jdbc.sql("insert into maintenance_done (task_id, at, hours) values (7, 2000, 180)").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(new MaintenanceRepository(jdbc).all().keySet()).containsExactly(new MaintenanceTask(7, "veteran", new Routine("Oil the rods", 200.0, null,
                Duration.ofMinutes(15), Task.CHANGE_NOZZLE), Instant.ofEpochMilli(2000), 180, true));
        jdbc.sql("delete from maintenance_task").update();
        assertThat(jdbc.sql("select count(*) from maintenance_done").query(Integer.class).single()).isZero();
    }
}
