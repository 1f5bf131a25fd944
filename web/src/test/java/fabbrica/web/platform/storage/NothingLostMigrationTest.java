package fabbrica.web.platform.storage;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Data of labs that have worked with earlier versions. */
class NothingLostMigrationTest {

    @TempDir
    private Path folder;
    private DriverManagerDataSource source;
    private JdbcClient jdbc;

    @BeforeEach
    void earlier() {
        source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db"));
        Flyway.configure().dataSource(source).target("5").load().migrate();
        jdbc = JdbcClient.create(source);
    }

    @Test
    void a_set_up_that_was_cut_short_gets_its_lab() {
        jdbc.sql("insert into account (username, password, role, name) values ('ana', 'x', 'COORDINATOR', 'Ana')").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select currency || round from lab").query(String.class).list()).containsExactly("EUR");
    }

    @Test
    void a_lab_that_was_never_set_up_still_waits_for_it() {
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select count(*) from lab").query(Integer.class).single()).isZero();
    }

    @Test
    void a_sliced_file_dropped_together_with_a_model_is_kept_though_the_form_was_one() {
        Flyway.configure().dataSource(source).target("16").load().migrate();
        jdbc.sql("insert into hand_over (name, token, created_at) values ('cup.stl', 'one form', 1)").update();
        jdbc.sql("insert into sliced_file (name, sha256, bytes, taken_at, token) values ('cup.gcode', 'abc', 3, 1, 'one form')").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select name from hand_over order by id").query(String.class).list()).containsExactly("cup.stl", "cup.gcode");
    }

    @Test
    void sliced_files_stay_and_are_named_as_files() {
        jdbc.sql("insert into sliced_file (name, sha256, bytes, taken_at) values ('a.gcode', 'abc', 3, '2026-01-01T00:00:00Z'), "
                + "('b.gcode', 'def', 3, '2026-01-01T00:00:00Z')").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(new FileReferenceRepository(jdbc).all()).containsExactlyInAnyOrder("abc", "def");
        assertThat(jdbc.sql("select m.name || ' ' || m.format || ' ' || h.created_at from model m join hand_over h on h.id = m.hand_over_id").query(String.class).list())
                .as("without a ticket they wait at the Counter to become one").containsExactly("a.gcode GCODE 1767225600000", "b.gcode GCODE 1767225600000");
        assertThat(jdbc.sql("select count(*) from sliced_file").query(Integer.class).single()).isZero();
    }
}
