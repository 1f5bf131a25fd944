package fabbrica.web.notice;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Path;
import org.flywaydb.core.Flyway;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.datasource.DriverManagerDataSource;

class ToldMigrationTest {

    @Test
    void tickets_of_an_earlier_lab_get_codes_of_their_own_and_nothing_old_is_mailed(@TempDir Path folder) {
        DriverManagerDataSource source = new DriverManagerDataSource("jdbc:sqlite:" + folder.resolve("lab.db") + "?foreign_keys=on");
        Flyway.configure().dataSource(source).target("11").load().migrate();
        JdbcClient jdbc = JdbcClient.create(source);
        jdbc.sql("insert into member (id, name, since) values (1, 'Ada Quist', 0)").update();
        jdbc.sql("insert into hand_over (id, name, token, created_at) values (1, 'a.stl', 't', 0)").update();
        for (int id = 1; id <= 50; id++) {
            jdbc.sql("insert into model (id, hand_over_id, name, sha256, bytes, format, declared_unit) values (?, 1, 'a.stl', 'abc', 3, 'STL', 'mm')").params(id).update();
            jdbc.sql("insert into ticket (id, model_id, state, member_id, unit, created_at) values (?, ?, 'PRINTED', 1, 'mm', 0)").params(id, id).update();
        }
        jdbc.sql("insert into event (id, at, kind, ticket_id, facts) values (1, 1000, 'declined', 1, '{}')").update();
        jdbc.sql("insert into outbox (event_id) values (1)").update();
        Flyway.configure().dataSource(source).load().migrate();
        assertThat(jdbc.sql("select collect_code from ticket").query(String.class).list()).allMatch(code -> code.matches("[A-HJ-NP-Z2-9]{4}"))
                .satisfies(codes -> assertThat(codes.stream().distinct().count()).isGreaterThan(45));
        assertThat(jdbc.sql("select delivered_at || channel from outbox").query(String.class).single()).isEqualTo("1000PAGE");
        assertThat(jdbc.sql("select email || grown_up_email from member").query(String.class).single()).isEmpty();
    }
}
