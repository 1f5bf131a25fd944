package fabbrica.web.stores;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.core.judge.BedCare;
import fabbrica.core.judge.Policy;
import java.nio.file.Path;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;
import tools.jackson.databind.ObjectMapper;

/** The rules of a house that were written down by earlier versions. */
class HouseRulesMigrationTest {

    @Test
    void rules_from_before_bed_care_was_asked_about_keep_all_they_said_and_get_the_usual_one(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db"));
        Flyway.configure().dataSource(source).target("21").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        jdbc.sql("insert into lab (id, name, currency, limit_mb, policy) values (1, 'Old lab', 'EUR', 200, ?)").params("""
                {"fairGrams":100.0,"fairHours":0.0,"fairUseStops":true,"badgesRequired":false,"grownUpsRequired":true,"unattended":false,
                "trinketMinutes":30.0,"trinketCm3":5.0,"reserveG":8.0,"refused":"weapons"}""").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(new InventoryRepository(jdbc, new ObjectMapper()).lab().orElseThrow().policy())
                .isEqualTo(new Policy(100, 0, true, false, true, false, 30, 5, 8, "weapons", BedCare.USUAL));
    }
}
