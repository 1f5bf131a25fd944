package fabbrica.web.privacy;

import static org.assertj.core.api.Assertions.assertThat;

import fabbrica.web.platform.storage.FileReferenceRepository;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

/** Members and models of a lab that has worked with earlier versions. */
class PrivacyMigrationTest {

    @Test
    void models_keep_their_files_and_nobody_is_forgotten_for_the_time_before(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db") + "?foreign_keys=on");
        Flyway.configure().dataSource(source).target("7").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        jdbc.sql("insert into lab (id, name, currency, limit_mb, opens, closes) values (1, 'Dock', 'EUR', 200, '09:00', '20:00')").update();
        jdbc.sql("insert into member (id, name) values (1, 'Ada Quist')").update();
        jdbc.sql("insert into hand_over (id, name, token, created_at) values (1, 'a.stl', 't', '2020-01-01T00:00:00Z')").update();
        jdbc.sql("insert into model (id, hand_over_id, name, sha256, bytes, format) values (1, 1, 'a.stl', 'abc', 3, 'STL')").update();
        jdbc.sql("insert into model (id, hand_over_id, name, sha256, bytes, format, revision_of) values (2, 1, 'b.ply', 'def', 3, 'PLY', 1)").update();
        jdbc.sql("insert into ticket (id, model_id, state, member_id, created_at) values (1, 2, 'HANDED_OUT', 1, '2020-01-01T00:00:00Z')").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(new FileReferenceRepository(jdbc).all()).containsExactlyInAnyOrder("abc", "def");
        assertThat(jdbc.sql("pragma foreign_key_check").query().listOfRows()).isEmpty();
        PrivacyRepository repository = new PrivacyRepository(jdbc);
        assertThat(repository.membersUnseenSince(Instant.now().minus(Duration.ofDays(1)))).isEmpty();
        assertThat(repository.membersUnseenSince(Instant.now().plus(Duration.ofDays(1)))).containsExactly(1L);
        assertThat(jdbc.sql("select keep_models_days + keep_photos_days + keep_members_days from lab").query(Integer.class).single()).isZero();
    }
}
