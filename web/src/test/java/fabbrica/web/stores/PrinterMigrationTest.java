package fabbrica.web.stores;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.recipe.Board;
import fabbrica.core.recipe.Preparation;
import fabbrica.core.recipe.Printer;
import java.nio.file.Path;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import tools.jackson.databind.ObjectMapper;

/** Printers of a lab that has worked with earlier versions. */
class PrinterMigrationTest {

    @Test
    void printers_from_before_boards_were_named_get_the_usual_one(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db"));
        Flyway.configure().dataSource(source).target("4").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        jdbc.sql("insert into nozzle (id, bore_mm, hardened) values (1, 0.4, 0)").update();
        jdbc.sql("""
                insert into printer (id, name, nozzle_id, width_mm, depth_mm, height_mm, max_speed, acceleration, corner_speed,
                    z_speed, max_flow, retraction_mm, retraction_speed, bed_c_per_s, nozzle_c_per_s, homing_s, levelling_s,
                    purge_s, purge_mm3, filament_mm, enclosed, max_nozzle_c, max_bed_c)
                values ('veteran', 'Veteran', 1, 200, 180, 190, 150, 600, 7, 9, 10, 1, 40, 0.2, 2, 20, 60, 15, 40, 1.75, 0,
                    255, 90)""").update();
        Flyway.configure().dataSource(source).load().migrate();
        Printer veteran = new InventoryRepository(jdbc, new ObjectMapper()).printers().getFirst().printer();
        assertThat(veteran.kinematics().board()).isEqualTo(Board.USUAL);
        assertThat(veteran.kinematics().accelerationMmS2()).isEqualTo(600);
        assertThat(veteran.preparation().changeS()).isEqualTo(Preparation.USUAL_CHANGE_S);
    }
}
